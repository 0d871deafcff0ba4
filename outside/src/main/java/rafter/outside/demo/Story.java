package rafter.outside.demo;

import java.util.List;

/**
 * A kind of request, with what both sides write in the course of it. Placeholders in braces are filled when it is told.
 *
 * @param firms whether companies ask this rather than passengers
 * @param mailbox the address it goes to
 * @param priority what an agent makes of it
 * @param partner whether somebody else has to be asked on the way
 * @param asks what the customer writes, the request first
 * @param answers what we write
 * @param note what an agent notes; may be empty
 */
record Story(
        String subject,
        boolean firms,
        String mailbox,
        String topic,
        List<String> tags,
        String priority,
        boolean partner,
        List<String> asks,
        List<String> answers,
        String note) {}
