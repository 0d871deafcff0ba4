package rafter.app.people;

import java.util.List;

/**
 * An organisation whose people write to us.
 *
 * @param plan what it has bought; empty: nothing
 * @param domains the mail domains by which its people are recognised
 */
public record Company(long id, String name, String plan, List<String> domains, int version) {}
