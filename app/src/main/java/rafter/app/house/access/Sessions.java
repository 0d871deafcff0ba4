package rafter.app.house.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Collection;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.Authentication;
import org.springframework.security.web.authentication.logout.LogoutHandler;
import org.springframework.stereotype.Component;
import rafter.app.platform.LiveNews;
import rafter.app.platform.OpenSessions;
import rafter.core.id.PersonId;

/** The sessions of people who work here, as the session store keeps them. */
@Component
class Sessions implements LogoutHandler, OpenSessions {

    private static final Table<?> SESSION = DSL.table(DSL.name("spring_session"));
    private static final Field<String> PRINCIPAL = DSL.field(DSL.name("principal_name"), String.class);
    private static final Field<String> ID = DSL.field(DSL.name("session_id"), String.class);

    private final DSLContext sql;
    private final LiveNews news;

    Sessions(DSLContext sql, LiveNews news) {
        this.sql = sql;
        this.news = news;
    }

    /** What a session names a person by. */
    static String principal(PersonId person) {
        return "person-" + person;
    }

    /** Ends all sessions of a person, and with them their live streams on all nodes. */
    void end(PersonId person) {
        sql.deleteFrom(SESSION).where(PRINCIPAL.eq(principal(person))).execute();
        news.sessionsEnded(person);
    }

    @Override
    public void logout(HttpServletRequest request, HttpServletResponse response, @Nullable Authentication who) {
        if (who != null && who.getPrincipal() instanceof SignedIn signedIn) {
            news.sessionsEnded(signedIn.person());
        }
    }

    @Override
    public Set<String> stillOpen(Collection<String> ids) {
        return ids.isEmpty()
                ? Set.of()
                : Set.copyOf(sql.select(ID).from(SESSION).where(ID.in(ids)).fetch(ID));
    }
}
