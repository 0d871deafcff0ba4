package rafter.app.platform;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.sql.SQLException;
import java.sql.SQLTransientException;
import java.util.Map;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.CannotCreateTransactionException;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Stands before everything else: turns away what no page can mean, and says in one clear page that the database is away, where not even a
 * session can be read.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class Doorway extends OncePerRequestFilter {

    private static final Logger LOG = LoggerFactory.getLogger(Doorway.class);
    private static final int LONGEST = 20_000;
    /** Fields in which people write at length. */
    private static final Set<String> LONG =
            Set.of("html", "text", "numbers", "domains", "criteria", "days", "ackBody", "body");

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        if (odd(request)) {
            plain(
                    response,
                    HttpServletResponse.SC_BAD_REQUEST,
                    "Not understood",
                    "Something in the request was not understood, or is too long. Nothing was changed. Go back; what you typed is still there.");
            return;
        }
        try {
            chain.doFilter(request, response);
        } catch (ServletException | RuntimeException e) {
            if (!databaseIsAway(e) || response.isCommitted()) {
                throw e;
            }
            LOG.error("The database does not answer {}: {}", request.getRequestURI(), e.toString());
            response.setHeader("Retry-After", "5");
            plain(
                    response,
                    HttpServletResponse.SC_SERVICE_UNAVAILABLE,
                    "The database does not answer",
                    "Nothing was changed. Wait a moment and load the page again; drafts that were saved are safe.");
        }
    }

    /** A parameter with a character that no text has, or longer than anything that is asked for. */
    private static boolean odd(HttpServletRequest request) {
        String query = request.getQueryString();
        if (request.getRequestURI().contains("%00")
                || (query != null && (query.contains("%00") || query.length() > LONGEST))) {
            return true;
        }
        boolean form = request.getContentType() != null
                && request.getContentType().startsWith("application/x-www-form-urlencoded");
        return form && request.getParameterMap().entrySet().stream().anyMatch(Doorway::odd);
    }

    private static boolean odd(Map.Entry<String, String[]> parameter) {
        for (String value : parameter.getValue()) {
            boolean tooLong = value.length() > LONGEST && !LONG.contains(parameter.getKey());
            if (tooLong || value.indexOf('\0') >= 0 || parameter.getKey().indexOf('\0') >= 0) {
                return true;
            }
        }
        return false;
    }

    /** Whether it comes of a database that cannot be reached, or that could not be waited for. */
    static boolean databaseIsAway(Throwable e) {
        int depth = 0;
        for (Throwable at = e; at != null && depth < 20; at = at.getCause(), depth++) {
            boolean connection = at instanceof SQLException sql
                    && (at instanceof SQLTransientException
                            || (sql.getSQLState() != null
                                    && (sql.getSQLState().startsWith("08")
                                            || sql.getSQLState().startsWith("57P"))));
            if (connection
                    || at instanceof CannotCreateTransactionException
                    || at instanceof DataAccessResourceFailureException) {
                return true;
            }
        }
        return false;
    }

    private static void plain(HttpServletResponse response, int status, String title, String words) throws IOException {
        response.reset();
        response.setHeader("Content-Security-Policy", "default-src 'none'; style-src 'self'; font-src 'self'");
        BarePage.answer(response, status, title, "<p>" + words + "</p>");
    }
}
