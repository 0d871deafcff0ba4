package rafter.app.house.people;

import java.util.List;
import java.util.Map;
import rafter.core.id.CompanyId;

/**
 * An organisation whose people write to us.
 *
 * @param plan what it has bought; empty: nothing
 * @param domains the mail domains by which its people are recognised
 * @param own what stands in its own fields, by the field's key
 */
public record Company(
        CompanyId id, String name, String plan, List<String> domains, Map<String, String> own, int version) {}
