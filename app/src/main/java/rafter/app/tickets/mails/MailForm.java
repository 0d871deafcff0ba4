package rafter.app.tickets.mails;

import java.util.ArrayList;
import java.util.List;
import org.springframework.util.MultiValueMap;
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.platform.Whole;
import rafter.core.criteria.Criteria;
import rafter.core.wording.Purpose;
import rafter.core.wording.Template;

/**
 * A template as the fields of its form, and back.
 *
 * @param ticket with which ticket it is looked at, as it was typed
 * @param shown which of its languages is looked at
 */
record MailForm(Template template, String ticket, int shown) {

    private static final int MOST_LANGUAGES = 30;

    static MailForm empty(Purpose purpose, String ticket) {
        return new MailForm(
                new Template(
                        0,
                        purpose,
                        "",
                        true,
                        Template.Open.ANY,
                        Criteria.everything(),
                        List.of(new Template.Version("", "", "")),
                        0),
                ticket,
                0);
    }

    static MailForm read(MultiValueMap<String, String> typed) {
        Purpose purpose =
                Purpose.of(text(typed, "purpose")).orElseThrow(() -> new Problem.Invalid("There is no such mail."));
        var versions = new ArrayList<Template.Version>();
        for (int i = 0; i < MOST_LANGUAGES && typed.containsKey("v." + i + ".body"); i++) {
            versions.add(new Template.Version(
                    text(typed, "v." + i + ".language").strip(),
                    text(typed, "v." + i + ".subject").strip(),
                    text(typed, "v." + i + ".body").replace("\r\n", "\n")));
        }
        var template = new Template(
                Whole.of(text(typed, "id"), 0),
                purpose,
                text(typed, "name").strip(),
                typed.containsKey("on"),
                open(text(typed, "open")),
                purpose.chosen() ? CriteriaForm.read(typed) : Criteria.everything(),
                versions,
                Whole.of(text(typed, "version"), 0));
        return new MailForm(template, text(typed, "ticket").strip(), Whole.of(text(typed, "shown"), 0));
    }

    private static Template.Open open(String typed) {
        return typed.equals("OPEN") || typed.equals("CLOSED") ? Template.Open.valueOf(typed) : Template.Open.ANY;
    }

    private static String text(MultiValueMap<String, String> typed, String name) {
        return Say.orBlank(typed.getFirst(name));
    }

    /** This form after a button was pressed that changes its shape. */
    MailForm after(String act) {
        var versions = new ArrayList<>(template.versions());
        if (act.equals("add-language") && versions.size() < MOST_LANGUAGES) {
            Template.Version first = template.words("");
            versions.add(new Template.Version("", first.subject(), first.body()));
            return with(template.criteria(), versions, versions.size() - 1);
        }
        String[] words = act.split(":");
        if (words.length == 2 && words[1].matches("\\d{1,2}")) {
            int at = Integer.parseInt(words[1]);
            if (words[0].equals("remove-language") && at < versions.size() && versions.size() > 1) {
                versions.remove(at);
                return with(template.criteria(), versions, 0);
            }
            if (words[0].equals("show") && at < versions.size()) {
                return with(template.criteria(), versions, at);
            }
        }
        return with(CriteriaForm.act(template.criteria(), act), versions, shown);
    }

    private MailForm with(Criteria criteria, List<Template.Version> versions, int looked) {
        return new MailForm(
                new Template(
                        template.id(),
                        template.purpose(),
                        template.name(),
                        template.on(),
                        template.open(),
                        criteria,
                        versions,
                        template.version()),
                ticket,
                looked);
    }

    /** The language that is looked at. */
    Template.Version looked() {
        return template.versions()
                .get(Math.max(0, Math.min(shown, template.versions().size() - 1)));
    }
}
