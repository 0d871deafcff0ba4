package rafter.app.tickets.acts;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.ui.Model;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;

/**
 * How a mail that customers get by itself reads, while its wording is typed.
 *
 * @param placeholders those that can stand in it
 * @param sample what they stand for in the preview, by their names
 */
public record MailPreview(Set<Placeholder> placeholders, Map<String, String> sample) {

    /** Puts it into a page's model. */
    public void put(String subject, String body, Model model) {
        model.addAttribute("previewSubject", Placeholders.fill(subject, sample));
        model.addAttribute("previewBody", Placeholders.fill(body, sample));
        model.addAttribute("placeholders", placeholders);
        model.addAttribute("sample", sample);
        model.addAttribute("unknown", unknown(subject, body));
    }

    /** The placeholders in a wording that cannot stand in it. */
    public List<String> unknown(String subject, String body) {
        return Placeholders.unknown(subject + " " + body, sample.keySet());
    }
}
