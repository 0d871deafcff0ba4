package rafter.app.house.access;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ModelAttribute;
import rafter.app.platform.FrameSource;
import rafter.app.platform.RecentNews;

/** Gives every page what its frame shows: who is signed in, and the token its forms carry. */
@ControllerAdvice
class FrameAdvice implements FrameSource {

    private static final List<String> WITHOUT_COOKIES = List.of("/panel/", "/talk/");

    private final Access access;
    private final Presence presence;
    private final RecentNews news;

    FrameAdvice(Access access, Presence presence, RecentNews news) {
        this.news = news;
        this.access = access;
        this.presence = presence;
    }

    /**
     * What the frame shows.
     *
     * @param person who is signed in; nobody on the sign-in page
     * @param administrator whether house rules are shown
     * @param csrf the token
     * @param path the path of the page
     * @param mark of the last news that the page knows of
     */
    public record Frame(@Nullable Person person, boolean administrator, String csrf, String path, String mark) {}

    @Override
    @ModelAttribute("frame")
    public Frame frame(HttpServletRequest request) {
        // Before anything is read.
        String mark = news.mark();
        Person person = access.whoever().orElse(null);
        if (person != null) {
            presence.seen(person.id());
        }
        boolean administrator = person != null && person.role().has(Right.HOUSE_RULES);
        // A token is kept in a cookie once it is asked for, and what lies in the frame of another website has none.
        boolean cookies = WITHOUT_COOKIES.stream().noneMatch(request.getRequestURI()::startsWith);
        CsrfToken token = cookies ? (CsrfToken) request.getAttribute(CsrfToken.class.getName()) : null;
        return new Frame(person, administrator, token == null ? "" : token.getToken(), request.getRequestURI(), mark);
    }
}
