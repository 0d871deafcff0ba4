package rafter.app.house.people;

import java.util.Optional;
import java.util.Set;

/**
 * Somebody who writes to us.
 *
 * @param company the id of the company they belong to
 * @param addresses all their mail addresses, in lower case
 */
public record Contact(long id, String name, Optional<Long> company, Set<String> addresses) {}
