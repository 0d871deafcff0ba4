package rafter.app.house.people;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;

/**
 * What is written down about a contact.
 *
 * @param company the id of the company they belong to
 * @param addresses all their mail addresses, in lower case, in order
 * @param phones their telephone numbers as they were written, in order
 * @param language in which they are written to, by its ISO 639 code; blank: nobody said
 * @param zone the time zone in which they are, such as Europe/Oslo; blank: nobody said
 * @param own what stands in their own fields, by the field's key
 * @param version which state of it this is
 */
public record ContactCard(
        ContactId id,
        String name,
        Optional<CompanyId> company,
        List<String> addresses,
        List<String> phones,
        String language,
        String zone,
        Map<String, String> own,
        int version) {}
