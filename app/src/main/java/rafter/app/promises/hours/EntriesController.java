package rafter.app.promises.hours;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.function.UnaryOperator;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.Problem;
import rafter.app.promises.targets.CalendarFile;
import rafter.app.promises.targets.DraftChange;
import rafter.app.promises.targets.TargetDrafts;
import rafter.core.id.PersonId;
import rafter.core.target.CalendarPlan;
import rafter.core.target.PromiseBook;
import rafter.core.time.Entry;
import rafter.core.time.RepeatWords;

/** The entries of a calendar: openings and closings, typed or taken from a calendar file. */
@Controller
@RequestMapping("/house-rules/hours")
class EntriesController {

    private final TargetDrafts drafts;
    private final DraftChange change;
    private final Access access;
    private final Clock clock;

    EntriesController(TargetDrafts drafts, DraftChange change, Access access, Clock clock) {
        this.change = change;
        this.drafts = drafts;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping("/{id}/entries/{entry}")
    String entry(
            @PathVariable String id,
            @PathVariable String entry,
            @RequestParam(defaultValue = "OPENING") String kind,
            Model model) {
        access.require(Right.HOUSE_RULES);
        TargetDrafts.Draft draft = drafts.current();
        CalendarPlan plan = Plans.of(draft.book(), id);
        ZoneId zone = draft.book().calendar(plan).zone();
        EntryForm form = entry.equals("new")
                ? EntryForm.empty(kind, clock.instant().atZone(zone).toLocalDate())
                : plan.entries().stream()
                        .filter(e -> e.id().equals(entry))
                        .findFirst()
                        .map(EntryForm::of)
                        .orElseThrow(() -> new Problem.NotFound("There is no such entry any more."));
        return form(plan, form, draft.version(), model);
    }

    private static String form(CalendarPlan plan, EntryForm form, int version, Model model) {
        model.addAttribute("plan", plan);
        model.addAttribute("form", form);
        model.addAttribute("version", version);
        model.addAttribute("sentence", sentence(form));
        return "promises/hours/entry";
    }

    private static String sentence(EntryForm form) {
        try {
            return RepeatWords.sentence(form.entry());
        } catch (Problem.Invalid e) {
            return e.words();
        }
    }

    /** The sentence that the form says as it stands. */
    @PostMapping("/sentence")
    String sentence(EntryForm form, Model model) {
        access.require(Right.HOUSE_RULES);
        model.addAttribute("sentence", sentence(form));
        return "promises/hours/entry :: sentence";
    }

    @PostMapping("/{id}/entries")
    String saveEntry(
            @PathVariable String id,
            EntryForm form,
            @RequestParam int version,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        PromiseBook book = drafts.current().book();
        CalendarPlan plan = Plans.of(book, id);
        try {
            Entry typed = form.entry();
            Entry entry = form.id().equals("new") ? typed.withId("entry-" + UUID.randomUUID()) : typed;
            var entries = new ArrayList<>(plan.entries());
            entries.removeIf(e -> e.id().equals(entry.id()));
            entries.add(entry);
            drafts.save(Plans.with(book, plan.with(entries)), version, me, "changed calendar " + plan.name());
            redirect.addFlashAttribute("said", RepeatWords.sentence(entry) + ". Saved; not in force yet.");
            return "redirect:/house-rules/hours/" + id;
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", ((Problem) e).words());
            return form(
                    plan, form, e instanceof Problem.Stale ? drafts.current().version() : version, model);
        }
    }

    @PostMapping("/{id}/entries/{entry}/delete")
    String deleteEntry(
            @PathVariable String id,
            @PathVariable String entry,
            @RequestParam int version,
            RedirectAttributes redirect) {
        return change(id, version, "removed an entry", redirect, book -> {
            CalendarPlan plan = Plans.of(book, id);
            return Plans.with(
                    book,
                    plan.with(plan.entries().stream()
                            .filter(e -> !e.id().equals(entry))
                            .toList()));
        });
    }

    // ------------------------------------------------------------------ files

    @GetMapping("/{id}/export")
    ResponseEntity<byte[]> export(@PathVariable String id) {
        access.require(Right.HOUSE_RULES);
        PromiseBook book = drafts.current().book();
        CalendarPlan plan = Plans.of(book, id);
        String file = CalendarFile.write(book.calendar(plan), clock);
        return ResponseEntity.ok()
                .contentType(new MediaType("text", "calendar", StandardCharsets.UTF_8))
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename(plan.name() + ".ics", StandardCharsets.UTF_8)
                                .build()
                                .toString())
                .body(file.getBytes(StandardCharsets.UTF_8));
    }

    @PostMapping("/{id}/import")
    String importFile(
            @PathVariable String id,
            @RequestParam MultipartFile file,
            @RequestParam(defaultValue = "CLOSING") Entry.Kind kind,
            @RequestParam(defaultValue = "false") boolean instead,
            @RequestParam int version,
            RedirectAttributes redirect)
            throws IOException {
        byte[] bytes = file.getBytes();
        return change(id, version, "imported a calendar file", redirect, book -> {
            CalendarPlan plan = Plans.of(book, id);
            CalendarFile.Read read = CalendarFile.read(
                    new String(bytes, StandardCharsets.UTF_8),
                    book.calendar(plan).zone(),
                    kind);
            if (read.entries().isEmpty()) {
                throw new Problem.Invalid(
                        "The file has no events that could be taken over. " + String.join(" ", read.remarks()));
            }
            var entries = new ArrayList<Entry>(instead ? List.of() : plan.entries());
            entries.removeIf(old -> read.entries().stream().anyMatch(e -> e.id().equals(old.id())));
            entries.addAll(read.entries());
            redirect.addFlashAttribute("remarks", read.remarks());
            return Plans.with(book, plan.with(entries));
        });
    }

    /** Changes a calendar of the draft, and goes back to its page. */
    private String change(
            String id, int version, String what, RedirectAttributes redirect, UnaryOperator<PromiseBook> how) {
        String page = "/house-rules/hours/" + id;
        return change.apply(version, access.require(Right.HOUSE_RULES).id(), what, redirect, page, page, how);
    }
}
