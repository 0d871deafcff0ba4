package rafter.app.platform;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.DateTimeException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.dao.NonTransientDataAccessException;
import org.springframework.http.HttpStatus;
import org.springframework.transaction.TransactionException;
import org.springframework.validation.BindException;
import org.springframework.web.bind.ServletRequestBindingException;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.multipart.MaxUploadSizeExceededException;
import org.springframework.web.multipart.MultipartException;
import org.springframework.web.servlet.ModelAndView;
import rafter.core.json.NewerVersion;

/** Turns problems into a page, or into a short message where a script asked. */
@ControllerAdvice
class ProblemPages {

    private static final Logger LOG = LoggerFactory.getLogger(ProblemPages.class);

    private final FrameSource frames;

    ProblemPages(FrameSource frames) {
        this.frames = frames;
    }

    /** A page with its frame, which the framework adds for controllers alone. */
    private ModelAndView framed(HttpServletRequest request, HttpStatus status, String title, String words) {
        ModelAndView view = page(request, status, title, words);
        view.addObject("frame", frames.frame(request));
        return view;
    }

    @ExceptionHandler(Problem.class)
    ModelAndView problem(Problem problem, HttpServletRequest request, HttpServletResponse response) {
        return switch (problem) {
            case Problem.NotFound p -> framed(request, HttpStatus.NOT_FOUND, "Not here", p.words());
            case Problem.NoRight p -> framed(request, HttpStatus.FORBIDDEN, "No permission", p.words());
            case Problem.Invalid p -> framed(request, HttpStatus.UNPROCESSABLE_CONTENT, "That did not work", p.words());
            case Problem.Stale p -> framed(request, HttpStatus.CONFLICT, "Somebody was faster", p.words());
        };
    }

    /** While nodes are brought to a new version one after the other, the older ones leave alone what the newer ones wrote. */
    @ExceptionHandler(NewerVersion.class)
    ModelAndView newer(HttpServletRequest request) {
        return framed(
                request,
                HttpStatus.SERVICE_UNAVAILABLE,
                "Rafter is being updated",
                "A newer version of Rafter wrote to this ticket, and this machine has the older one still. Nothing was changed; try again in a"
                        + " moment. Drafts that were saved are safe.");
    }

    @ExceptionHandler(MaxUploadSizeExceededException.class)
    ModelAndView tooLarge(HttpServletRequest request) {
        return framed(
                request,
                HttpStatus.CONTENT_TOO_LARGE,
                "Too large",
                "A file may have 25 MB at most, and so may all of a reply together. What you typed is saved; choose a smaller file, or send a link.");
    }

    /** What refers to something that is not there, or is no value at all, is bad input; only a database that is away is said to be. */
    @ExceptionHandler({DataAccessException.class, TransactionException.class})
    ModelAndView database(RuntimeException e, HttpServletRequest request) {
        if (!Doorway.databaseIsAway(e)
                && (e instanceof DataIntegrityViolationException || e instanceof NonTransientDataAccessException)) {
            LOG.warn("Bad input for {}: {}", request.getRequestURI(), e.toString());
            return framed(
                    request,
                    HttpStatus.BAD_REQUEST,
                    "Not understood",
                    "Something in the request does not exist, or is no value that can be used. Nothing was changed.");
        }
        if (!Doorway.databaseIsAway(e)) {
            LOG.error("The database failed {}", request.getRequestURI(), e);
        }
        // Not even the frame can be drawn without it.
        return page(
                request,
                HttpStatus.SERVICE_UNAVAILABLE,
                "The database does not answer",
                "Nothing was changed. Wait a moment and try again; drafts that were saved are safe.");
    }

    /** A number that is none, a choice that there is not, a field that is missing. */
    @ExceptionHandler({
        MultipartException.class,
        MethodArgumentTypeMismatchException.class,
        ServletRequestBindingException.class,
        BindException.class,
        NumberFormatException.class,
        DateTimeException.class
    })
    ModelAndView notUnderstood(Exception e, HttpServletRequest request) {
        LOG.debug("Bad input for {}", request.getRequestURI(), e);
        return framed(
                request,
                HttpStatus.BAD_REQUEST,
                "Not understood",
                "Something in the request was not understood. Nothing was changed.");
    }

    static ModelAndView page(HttpServletRequest request, HttpStatus status, String title, String words) {
        boolean script =
                request.getHeader("HX-Request") != null || "fetch".equals(request.getHeader("X-Requested-With"));
        var view = new ModelAndView(script ? "platform/problem :: words" : "platform/problem");
        view.setStatus(status);
        view.addObject("title", title);
        view.addObject("words", words);
        view.addObject("code", status.value());
        return view;
    }
}
