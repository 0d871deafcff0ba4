package rafter.app.platform;

/**
 * One piece of news within this node.
 *
 * @param topic {@code ticket}, {@code writing}, {@code mail}, {@code mailboxes}, {@code notice}, or {@code all} when some may have been missed
 * @param number the ticket or, for a notice, the person it is about, else zero
 */
public record News(String topic, long number) {

    static News parse(String told) {
        int colon = told.indexOf(':');
        return new News(told.substring(0, colon), Long.parseLong(told.substring(colon + 1)));
    }
}
