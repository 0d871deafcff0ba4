package rafter.app.work.worklist;

import java.net.URLDecoder;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.CriteriaJson;
import rafter.core.id.TicketNumber;

/** The tickets of a list, for those who act on all of them. */
@Component
public class ChosenTickets {

    private final Views views;
    private final Worklist worklist;
    private final WorklistStore store;

    ChosenTickets(Views views, Worklist worklist, WorklistStore store) {
        this.views = views;
        this.worklist = worklist;
        this.store = store;
    }

    /**
     * The numbers of all tickets of a list.
     *
     * @param query the list, as its address says it after the question mark
     */
    public List<TicketNumber> allOf(String query, Viewer me, int most) {
        return store.numbers(worklist.among(asked(query, me), me), most);
    }

    /** The address of the list of open tickets that match criteria. */
    public static String openWhere(Criteria criteria) {
        return "/worklist?view=open&q=" + URLEncoder.encode(CriteriaJson.write(criteria), StandardCharsets.UTF_8);
    }

    /** Reads the part of an address after the question mark; what cannot be read there is refused in words. */
    ListRequest asked(String query, Viewer me) {
        Map<String, String> parameters = new LinkedHashMap<>();
        try {
            for (String pair : query.split("&")) {
                int equals = pair.indexOf('=');
                if (equals > 0) {
                    parameters.putIfAbsent(decoded(pair.substring(0, equals)), decoded(pair.substring(equals + 1)));
                }
            }
        } catch (IllegalArgumentException e) {
            throw new Problem.Invalid(
                    "The address of the list cannot be read. Open the list again; nothing has changed.");
        }
        return views.asked(parameters, me);
    }

    private static String decoded(String part) {
        return URLDecoder.decode(part, StandardCharsets.UTF_8);
    }
}
