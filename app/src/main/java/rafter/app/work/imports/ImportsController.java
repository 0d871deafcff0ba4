package rafter.app.work.imports;

import java.io.IOException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.OwnField;
import rafter.core.people.ContactColumn;
import rafter.database.tables.records.ContactImportRecord;

/** The pages on which contacts are brought in from a file. */
@Controller
@RequestMapping("/people/import")
class ImportsController {

    private static final int SAMPLES = 3;

    /** A column of the file. */
    public record Column(String heading, String target, List<String> samples) {}

    /** An import in a line. */
    public record Line(long id, String name, String when, String words) {}

    private final Imports imports;
    private final OwnFields fields;
    private final Targets targets;
    private final Access access;
    private final Clock clock;

    ImportsController(Imports imports, OwnFields fields, Targets targets, Access access, Clock clock) {
        this.imports = imports;
        this.fields = fields;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping
    String start(Model model) {
        model.addAttribute(
                "latest",
                imports.latest(access.require(Right.HOUSE_RULES)).stream()
                        .map(one -> new Line(
                                one.getId(),
                                one.getName(),
                                Say.when(one.getAt(), clock.instant(), targets.zone()),
                                one.getBegun() ? words(one) : "not begun"))
                        .toList());
        return "work/imports/start";
    }

    private static String words(ContactImportRecord one) {
        return one.getAdded() + " added, " + one.getChanged() + " changed, " + one.getSame() + " as they were";
    }

    @PostMapping
    String take(@RequestParam(required = false) Optional<MultipartFile> file, Model model) throws IOException {
        Viewer me = access.require(Right.HOUSE_RULES);
        byte[] content = file.isPresent() ? file.get().getBytes() : new byte[0];
        String name = file.map(MultipartFile::getOriginalFilename).orElse("contacts");
        try {
            return "redirect:/people/import/" + imports.take(name, content, me);
        } catch (Problem.Invalid e) {
            model.addAttribute("problem", e.words());
            return start(model);
        }
    }

    @GetMapping("/{id}")
    String page(@PathVariable long id, Model model) {
        Viewer me = access.require(Right.HOUSE_RULES);
        ContactImportRecord row = imports.find(id, me);
        if (row.getBegun()) {
            return progress(row, model);
        }
        return columns(row, model);
    }

    private String columns(ContactImportRecord row, Model model) {
        ContactTable table = imports.table(row);
        var columns = new ArrayList<Column>();
        for (int i = 0; i < table.headings().size(); i++) {
            int place = i;
            columns.add(new Column(
                    table.headings().get(i),
                    i < row.getMapping().length ? row.getMapping()[i] : "",
                    table.rows().stream()
                            .filter(cells ->
                                    cells.size() > place && !cells.get(place).isBlank())
                            .map(cells -> cells.get(place))
                            .map(cell -> cell.length() > 80 ? cell.substring(0, 80) + "…" : cell)
                            .limit(SAMPLES)
                            .toList()));
        }
        model.addAttribute("row", row);
        model.addAttribute("columns", columns);
        model.addAttribute("count", table.rows().size());
        model.addAttribute("charsets", Imports.charsets());
        model.addAttribute("targets", targets());
        return "work/imports/columns";
    }

    private Map<String, String> targets() {
        var all = new LinkedHashMap<String, String>();
        for (ContactColumn column : ContactColumn.values()) {
            all.put(column.key(), column.words());
        }
        fields.shown(OwnField.Bearer.CONTACT).forEach(field -> all.put(field.key(), field.name()));
        return all;
    }

    /** Says which column goes where, and tries it. */
    @PostMapping("/{id}")
    String map(
            @PathVariable long id,
            @RequestParam(defaultValue = "") List<String> target,
            @RequestParam(defaultValue = "UTF-8") String charset,
            @RequestParam(defaultValue = "false") boolean updates,
            Model model) {
        Viewer me = access.require(Right.HOUSE_RULES);
        try {
            imports.map(id, target, charset, updates, me);
            model.addAttribute("tried", imports.attempt(id, me));
        } catch (Problem.Invalid e) {
            model.addAttribute("problem", e.words());
        }
        return columns(imports.find(id, me), model);
    }

    @PostMapping("/{id}/begin")
    String begin(@PathVariable long id) {
        imports.begin(id, access.require(Right.HOUSE_RULES));
        return "redirect:/people/import/" + id;
    }

    @PostMapping("/{id}/cancel")
    String cancel(@PathVariable long id) {
        imports.cancel(id, access.require(Right.HOUSE_RULES));
        return "redirect:/people/import/" + id;
    }

    @GetMapping("/{id}/progress")
    String progress(@PathVariable long id, Model model) {
        progress(imports.find(id, access.require(Right.HOUSE_RULES)), model);
        return "work/imports/progress :: progress";
    }

    private String progress(ContactImportRecord row, Model model) {
        BackgroundWork.Work work = imports.progress(row.getId()).orElseThrow();
        Map<Integer, String> wrong = imports.problems(row.getId());
        model.addAttribute("row", row);
        model.addAttribute("work", work);
        model.addAttribute("words", words(row));
        model.addAttribute("wrong", wrong.size());
        model.addAttribute("problems", wrong.entrySet().stream().limit(200).toList());
        return "work/imports/progress";
    }
}
