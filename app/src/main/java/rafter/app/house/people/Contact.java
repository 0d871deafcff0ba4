package rafter.app.house.people;

import java.util.Optional;
import java.util.Set;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;

/**
 * Somebody who writes to us.
 *
 * @param company the id of the company they belong to
 * @param addresses all their mail addresses, in lower case
 */
public record Contact(ContactId id, String name, Optional<CompanyId> company, Set<String> addresses) {}
