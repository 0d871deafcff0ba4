package rafter.app.platform;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.FlashMap;
import org.springframework.web.servlet.FlashMapManager;
import org.springframework.web.servlet.support.SessionFlashMapManager;

/**
 * What came of an act is said by the page that the act leads to. That page may be open already and ask for itself anew in the same moment; such
 * a request says so in its head, and leaves the words to the page that is shown.
 */
@Component("flashMapManager")
class WordsForPages implements FlashMapManager {

    /** By which a page says that it asks for itself anew. */
    static final String ANEW = "X-Anew";

    private final FlashMapManager words = new SessionFlashMapManager();

    @Override
    public @Nullable FlashMap retrieveAndUpdate(HttpServletRequest request, HttpServletResponse response) {
        return request.getHeader(ANEW) == null ? words.retrieveAndUpdate(request, response) : null;
    }

    @Override
    public void saveOutputFlashMap(FlashMap kept, HttpServletRequest request, HttpServletResponse response) {
        words.saveOutputFlashMap(kept, request, response);
    }
}
