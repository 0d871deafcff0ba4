package rafter.app.arrival.panel;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.stereotype.Component;
import rafter.app.arrival.chat.ChatSites;
import rafter.app.house.access.FramedPages;
import rafter.core.chat.Site;

/** The page of a panel may be held by the websites that are listed for it, and by no other. */
@Component
class PanelFrames implements FramedPages {

    private static final Pattern PANEL = Pattern.compile("/panel/([a-z0-9-]{1,40})");

    private final ChatSites sites;

    PanelFrames(ChatSites sites) {
        this.sites = sites;
    }

    @Override
    public List<String> heldBy(HttpServletRequest request) {
        Matcher panel = PANEL.matcher(request.getRequestURI());
        return panel.matches()
                ? sites.of(panel.group(1)).stream()
                        .flatMap(site -> site.origins().stream())
                        .map(Site::text)
                        .toList()
                : List.of();
    }
}
