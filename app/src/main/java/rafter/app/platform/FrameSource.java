package rafter.app.platform;

import jakarta.servlet.http.HttpServletRequest;

/** Tells what the frame of a page shows. */
public interface FrameSource {

    /** The frame of the page that a request asks for; never fails, for problems have pages too. */
    Object frame(HttpServletRequest request);
}
