package rafter.app.house.access;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Knows all that waits for a person. */
@Component
public class Waiting {

    private final DSLContext sql;
    private final List<Awaiting> kinds;

    Waiting(DSLContext sql, List<Awaiting> kinds) {
        this.sql = sql;
        this.kinds = kinds;
    }

    /** How much of each waits for somebody, by its name; asked in one query. */
    @Transactional(readOnly = true)
    public Map<String, Integer> of(Viewer me) {
        var counted = sql.select(kinds.stream().map(kind -> kind.waitingFor(me)).toList())
                .fetchSingle();
        return kinds.stream()
                .collect(Collectors.toMap(Awaiting::name, kind -> counted.get(kinds.indexOf(kind), Integer.class)));
    }
}
