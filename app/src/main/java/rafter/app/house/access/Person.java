package rafter.app.house.access;

import rafter.app.platform.Say;
import rafter.core.id.PersonId;

/**
 * Somebody of ours.
 *
 * @param active whether they may sign in
 */
public record Person(PersonId id, String name, String address, Role role, boolean active, int version) {

    /** The letters that stand for them in small places. */
    public String initials() {
        return Say.initials(name);
    }

    /** The name by which colleagues call them. */
    public String firstName() {
        return name.strip().split("\\s+")[0];
    }
}
