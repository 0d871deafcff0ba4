package rafter.app.worklist;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.access.Access;
import rafter.app.access.Person;
import rafter.app.access.Right;
import rafter.app.platform.Problem;

/** The worklist. */
@Controller
class WorklistController {

    private static final int MOST_AT_ONCE = 200;
    /** Transactions that began before the list was made may have ended after it. */
    private static final Duration OVERLAP = Duration.ofSeconds(30);

    private final Worklist worklist;
    private final Access access;
    private final Clock clock;

    WorklistController(Worklist worklist, Access access, Clock clock) {
        this.worklist = worklist;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping("/")
    String home() {
        return "redirect:/worklist";
    }

    @GetMapping("/worklist")
    String show(@RequestParam(defaultValue = "my-turn") String view, @RequestParam(defaultValue = "") String after, Model model) {
        Person me = access.require(Right.WORK);
        ShippedView chosen = view(view);
        model.addAttribute("asOf", clock.millis());
        fill(chosen, me, model);
        model.addAttribute("page", worklist.page(chosen, me, Cursor.read(after)));
        model.addAttribute("further", !after.isEmpty());
        return "worklist/worklist";
    }

    private void fill(ShippedView chosen, Person me, Model model) {
        model.addAttribute("view", chosen);
        model.addAttribute("views", ShippedView.values());
        model.addAttribute("counts", worklist.counts(me));
        if (chosen.working()) {
            model.addAttribute("horizon", worklist.horizon(chosen, me));
        }
    }

    /** The next part of the list, asked for by scrolling. */
    @GetMapping("/worklist/more")
    String more(@RequestParam String view, @RequestParam String after, Model model) {
        Person me = access.require(Right.WORK);
        ShippedView chosen = view(view);
        model.addAttribute("view", chosen);
        model.addAttribute("page", worklist.page(chosen, me, Cursor.read(after)));
        return "worklist/worklist :: cards";
    }

    /** What stands above the list, afresh. */
    @GetMapping("/worklist/head")
    String head(@RequestParam String view, Model model) {
        fill(view(view), access.require(Right.WORK), model);
        return "worklist/worklist :: head";
    }

    /** These tickets afresh: cards that belong to the view, and for those shown before, what became of them. */
    @GetMapping("/worklist/cards")
    String cards(
            @RequestParam String view, @RequestParam(defaultValue = "") String numbers, @RequestParam(defaultValue = "") String shown,
            @RequestParam(required = false) Optional<Long> since, Model model) {
        Person me = access.require(Right.WORK);
        ShippedView chosen = view(view);
        model.addAttribute("asOf", clock.millis());
        var wanted = new ArrayList<>(numbers(numbers));
        since.ifPresent(at -> wanted.addAll(worklist.changedSince(chosen, me, Instant.ofEpochMilli(at).minus(OVERLAP), MOST_AT_ONCE)));
        List<Worklist.Card> in = worklist.those(chosen, me, wanted);
        List<Long> gone = numbers(shown).stream()
                .filter(number -> in.stream().noneMatch(card -> card.number() == number))
                .toList();
        model.addAttribute("view", chosen);
        model.addAttribute("page", new Worklist.Page(in, Optional.empty()));
        model.addAttribute("gone", gone.isEmpty() ? List.of() : worklist.any(chosen, me, gone));
        return "worklist/worklist :: some";
    }

    private static List<Long> numbers(String written) {
        return Arrays.stream(written.split(","))
                .filter(number -> number.matches("\\d{1,18}"))
                .map(Long::valueOf)
                .distinct()
                .limit(MOST_AT_ONCE)
                .toList();
    }

    private static ShippedView view(String key) {
        return ShippedView.of(key).orElseThrow(() -> new Problem.NotFound("There is no view called “" + key + "”."));
    }
}
