package rafter.app.work.search;

import jakarta.servlet.http.HttpServletRequest;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import rafter.app.house.access.Access;
import rafter.app.house.access.Place;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.core.id.TicketNumber;

/** The page that finds, and what the palette asks while somebody types. */
@Controller
class SearchController {

    private static final int LONGEST = 200;
    private static final int IN_PALETTE = 7;

    private final Search search;
    private final Alikes alikes;
    private final Access access;
    private final List<Place.Source> places;

    SearchController(Search search, Alikes alikes, Access access, List<Place.Source> places) {
        this.places = places;
        this.search = search;
        this.alikes = alikes;
        this.access = access;
    }

    @GetMapping("/search")
    String page(@RequestParam(defaultValue = "") String q, Model model) {
        model.addAttribute("found", search.find(cut(q), Integer.MAX_VALUE, access.require(Right.WORK)));
        return "work/search/search";
    }

    /** Tickets that look like one, beside it. */
    @GetMapping("/tickets/{number}/alike")
    String alike(@PathVariable TicketNumber number, Model model, HttpServletRequest request) {
        model.addAttribute("number", number);
        model.addAttribute("alike", alikes.to(number, access.require(Right.WORK)));
        return request.getHeader("HX-Request") == null ? "work/search/alike" : "work/search/alike :: list";
    }

    private static String cut(String asked) {
        return asked.length() > LONGEST ? asked.substring(0, LONGEST) : asked;
    }

    /** The pages that one may see, for the palette: what each is, and where it leads. */
    @GetMapping("/search/places")
    @ResponseBody
    List<Map<String, String>> places() {
        Viewer me = access.require(Right.WORK);
        return places.stream()
                .flatMap(source -> source.of(me).stream())
                .map(place -> Map.of("words", place.words(), "kind", place.kind(), "go", place.path()))
                .toList();
    }

    /** The first few, for the palette: what each is, and where it leads. */
    @GetMapping("/search/quick")
    @ResponseBody
    List<Map<String, String>> quick(@RequestParam(defaultValue = "") String q) {
        Search.Found found = search.find(cut(q), IN_PALETTE, access.require(Right.WORK));
        var all = new ArrayList<Map<String, String>>();
        found.tickets()
                .forEach(t -> all.add(Map.of(
                        "words",
                        t.number() + " " + t.subject(),
                        "kind",
                        t.contact() + ", " + t.state(),
                        "go",
                        "/tickets/" + t.number())));
        found.people().stream()
                .limit(3)
                .forEach(p -> all.add(Map.of("words", p.name(), "kind", p.detail(), "go", p.go())));
        found.companies().stream()
                .limit(2)
                .forEach(c -> all.add(Map.of("words", c.name(), "kind", "company", "go", c.go())));
        return all;
    }
}
