package rafter.app.work.worklist;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.criteria.CriteriaNames;
import rafter.app.house.fields.AddedField;
import rafter.app.platform.Ids;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.core.criteria.OwnField;
import rafter.core.id.TicketNumber;

/** The worklist. */
@Controller
class WorklistController {

    private static final int MOST_AT_ONCE = 200;
    /** As far as a reader who returns is brought back. */
    private static final int MOST_BROUGHT_BACK = 300;
    /** Transactions that began before the list was made may have ended after it. */
    private static final Duration OVERLAP = Duration.ofSeconds(30);

    private final Worklist worklist;
    private final Lanes lanes;
    private final Views views;
    private final CriteriaNames names;
    private final Access access;
    private final Clock clock;
    private final Export export;

    WorklistController(
            Worklist worklist,
            Lanes lanes,
            Views views,
            CriteriaNames names,
            Access access,
            Clock clock,
            Export export) {
        this.export = export;
        this.worklist = worklist;
        this.lanes = lanes;
        this.views = views;
        this.names = names;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping("/worklist")
    String show(@RequestParam Map<String, String> parameters, Model model) {
        Viewer me = access.require(Right.WORK);
        ListRequest asked = views.asked(parameters, me);
        model.addAttribute("asOf", clock.millis());
        head(asked, me, model);
        model.addAttribute(
                "deleted",
                Optional.ofNullable(parameters.get("deleted"))
                        .flatMap(key -> views.deleted(key, me))
                        .map(view -> new Deleted(view, views.haveCopies(view))));
        model.addAttribute("further", parameters.containsKey("after"));
        model.addAttribute("ending", parameters.containsKey("end") || parameters.containsKey("before"));
        switch (asked.shape()) {
            case LANES, CLOCK -> model.addAttribute("lanes", lanes.run(asked, parameters, me));
            case CARDS, LINES, GRID -> model.addAttribute("page", page(asked, me, parameters));
        }
        return "work/worklist/worklist";
    }

    /**
     * A view that was just deleted.
     *
     * @param copies who keeps a copy, by name
     */
    public record Deleted(ListView view, List<String> copies) {}

    private Worklist.Page page(ListRequest asked, Viewer me, Map<String, String> parameters) {
        if (parameters.containsKey("end") || parameters.containsKey("before")) {
            return worklist.before(asked, me, Cursor.read(parameters.getOrDefault("before", ""), asked.walked()));
        }
        return worklist.page(
                asked,
                me,
                Cursor.read(parameters.getOrDefault("after", ""), asked.walked()),
                Worklist.page(asked.shape()));
    }

    private void head(ListRequest asked, Viewer me, Model model) {
        List<ListView> tabs = views.pinned(me);
        model.addAttribute("asked", asked);
        views(asked.view(), tabs, me, model);
        Map<Long, Integer> counts = worklist.counts(tabs, me);
        model.addAttribute("counts", counts);
        WorklistStore.Total total = worklist.total(asked, counts, me);
        model.addAttribute("total", (total.more() ? "more than " : "") + Say.number(total.count()));
        model.addAttribute("count", total.count());
        model.addAttribute("sentence", names.sentence().of(asked.criteria()));
        model.addAttribute(
                "shapes",
                Arrays.stream(Shape.values())
                        .filter(shape -> shape.list() || !asked.view().ended())
                        .toList());
        model.addAttribute(
                "titles",
                titles(
                        names.own(),
                        Arrays.stream(KnownColumn.values())
                                .collect(Collectors.toMap(KnownColumn::key, KnownColumn::title))));
        model.addAttribute("orderWords", asked.sorting().getFirst().words(names));
        if (!asked.view().ended()) {
            model.addAttribute("horizon", worklist.horizon(asked, me));
        }
    }

    /** The view, the tabs, and the views that are not among them. */
    private void views(ListView view, List<ListView> tabs, Viewer me, Model model) {
        model.addAttribute("view", view);
        model.addAttribute("tabs", tabs);
        model.addAttribute("pinned", tabs.stream().anyMatch(tab -> tab.id() == view.id()));
        model.addAttribute(
                "others",
                views.visible(me).stream()
                        .filter(v -> tabs.stream().noneMatch(tab -> tab.id() == v.id()))
                        .toList());
        boolean mine = Views.mayChange(view, me);
        model.addAttribute("mine", mine);
        model.addAttribute("users", mine ? views.usedBy(view, me) : List.of());
    }

    /** The next part of the list, asked for by scrolling; {@code size} by a reader who returns to where they were. */
    @GetMapping("/worklist/more")
    String more(@RequestParam Map<String, String> parameters, Model model) {
        Viewer me = access.require(Right.WORK);
        ListRequest asked = views.asked(parameters, me);
        String wanted = parameters.getOrDefault("size", "");
        int size = wanted.matches("\\d{1,3}")
                ? Math.clamp(Integer.parseInt(wanted), 1, MOST_BROUGHT_BACK)
                : Worklist.page(asked.shape());
        model.addAttribute("asked", asked);
        Optional<Cursor> after = Cursor.read(parameters.getOrDefault("after", ""), asked.walked());
        model.addAttribute("page", worklist.page(asked, me, after, size));
        model.addAttribute("previous", parameters.getOrDefault("group-before", ""));
        return asked.shape() == Shape.GRID ? "work/worklist/rows :: grid" : "work/worklist/rows :: cards";
    }

    /** The list as a file. */
    @GetMapping("/worklist/export")
    void export(@RequestParam Map<String, String> parameters, HttpServletResponse response) throws IOException {
        Viewer me = access.require(Right.WORK);
        ListRequest asked = views.asked(parameters, me);
        export.require(asked, me);
        response.setContentType("text/csv;charset=UTF-8");
        response.setHeader(
                HttpHeaders.CONTENT_DISPOSITION,
                ContentDisposition.attachment()
                        .filename(asked.view().title() + ".csv", StandardCharsets.UTF_8)
                        .build()
                        .toString());
        response.setHeader(HttpHeaders.CACHE_CONTROL, "no-store");
        export.write(asked, me, titles(names.own(), Map.of()), response.getWriter());
    }

    /** What stands above the list, afresh. */
    @GetMapping("/worklist/head")
    String head(@RequestParam Map<String, String> parameters, Model model) {
        Viewer me = access.require(Right.WORK);
        head(views.asked(parameters, me), me, model);
        return "work/worklist/worklist :: head";
    }

    /** What is called what: these, and the own fields by the names of today. */
    private static Map<String, String> titles(List<AddedField> own, Map<String, String> known) {
        var titles = new HashMap<>(known);
        own.forEach(field -> titles.put(field.key(), field.name()));
        return titles;
    }

    /** What a list can be ordered by, parted by, and which columns it can have; as a small menu or, without scripts, as a page. */
    @GetMapping("/worklist/arrange/{what}")
    String arrange(
            @PathVariable String what,
            @RequestParam Map<String, String> parameters,
            Model model,
            HttpServletRequest request) {
        Viewer me = access.require(Right.WORK);
        if (!List.of("order", "group", "columns").contains(what)) {
            throw new Problem.NotFound("There is nothing to arrange here.");
        }
        ListRequest asked = views.asked(parameters, me);
        model.addAttribute("asked", asked);
        model.addAttribute("what", what);
        model.addAttribute("groupings", Grouping.of(asked.shape()));
        columns(what.equals("columns"), model);
        return request.getHeader("HX-Request") == null ? "work/worklist/arrange" : "work/worklist/arrange :: " + what;
    }

    private void columns(boolean columns, Model model) {
        List<AddedField> own = names.own();
        List<OwnField> shown = own.stream()
                .filter(f -> f.shown() && f.bearer() == OwnField.Bearer.TICKET)
                .map(AddedField::field)
                .toList();
        model.addAttribute(
                "titles",
                titles(
                        own,
                        columns
                                ? Arrays.stream(KnownColumn.values())
                                        .collect(Collectors.toMap(KnownColumn::key, KnownColumn::title))
                                : Map.of()));
        model.addAttribute(
                "orders",
                Stream.concat(
                                Arrays.stream(KnownColumn.values()),
                                shown.stream().map(OwnOrder::new))
                        .toList());
        model.addAttribute(
                "columns",
                Stream.concat(
                                Arrays.stream(KnownColumn.values()),
                                shown.stream().map(Column.Own::new))
                        .toList());
    }

    /** The horizon in words: what falls due when, each line opening its tickets. */
    @GetMapping("/worklist/horizon")
    String horizon(@RequestParam Map<String, String> parameters, Model model, HttpServletRequest request) {
        Viewer me = access.require(Right.WORK);
        ListRequest asked = views.asked(parameters, me);
        model.addAttribute("asked", asked);
        model.addAttribute("horizon", worklist.horizon(asked, me));
        return request.getHeader("HX-Request") == null ? "work/worklist/horizon" : "work/worklist/horizon :: stretches";
    }

    /** Why a ticket is in the list, or is not any more. */
    @GetMapping("/worklist/why/{number}")
    String why(@PathVariable TicketNumber number, @RequestParam Map<String, String> parameters, Model model) {
        Viewer me = access.require(Right.WORK);
        model.addAttribute("why", worklist.why(views.asked(parameters, me), number, me));
        return "work/worklist/why :: why";
    }

    /** These tickets afresh: rows that belong to the list, and for those shown before, what became of them. */
    @GetMapping("/worklist/cards")
    String cards(
            @RequestParam Map<String, String> parameters,
            @RequestParam(defaultValue = "") String numbers,
            @RequestParam(defaultValue = "") String shown,
            @RequestParam(required = false) Optional<Long> since,
            Model model) {
        Viewer me = access.require(Right.WORK);
        ListRequest asked = views.asked(parameters, me);
        model.addAttribute("asOf", clock.millis());
        var wanted = new ArrayList<>(numbers(numbers));
        since.ifPresent(at -> wanted.addAll(
                worklist.changedSince(asked, me, Instant.ofEpochMilli(at).minus(OVERLAP), MOST_AT_ONCE)));
        List<Worklist.Card> in = worklist.those(asked, me, wanted);
        List<TicketNumber> gone = numbers(shown).stream()
                .filter(number -> in.stream().noneMatch(card -> card.number().equals(number)))
                .toList();
        model.addAttribute("asked", asked);
        model.addAttribute("page", new Worklist.Page(in, Optional.empty(), Optional.empty(), Map.of()));
        model.addAttribute("gone", gone.isEmpty() ? List.of() : worklist.any(asked, me, gone));
        model.addAttribute("some", true);
        return "work/worklist/rows :: some";
    }

    static List<TicketNumber> numbers(String written) {
        return Ids.list(written, TicketNumber::new).limit(MOST_AT_ONCE).toList();
    }
}
