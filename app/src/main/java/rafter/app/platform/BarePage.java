package rafter.app.platform;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;

/** A page made without templates, for when less than all of the application can be relied upon. */
public final class BarePage {

    private static final String HEAD = """
            <!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>%1$s</title>\
            <link rel="stylesheet" href="/style/base.css"><link rel="stylesheet" href="/style/controls.css">\
            <link rel="stylesheet" href="/style/rules.css"></head>\
            <body><main class="problem sheet p-4"><h1>%1$s</h1>""";

    private BarePage() {}

    /**
     * Answers with a page.
     *
     * @param title in plain words
     * @param html what stands below it; whatever a stranger wrote is escaped in it already
     */
    public static void answer(HttpServletResponse response, int status, String title, String html) throws IOException {
        response.setStatus(status);
        response.setContentType("text/html;charset=utf-8");
        String page = HEAD.formatted(title) + html + "</main></body></html>";
        response.getOutputStream().write(page.getBytes(StandardCharsets.UTF_8));
    }
}
