package rafter.app.house.access;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;

/** Pages that other websites may hold in a frame. */
public interface FramedPages {

    /** The origins that may hold the page that is asked for; none: it is no such page. */
    List<String> heldBy(HttpServletRequest request);
}
