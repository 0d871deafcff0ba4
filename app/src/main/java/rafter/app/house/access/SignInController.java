package rafter.app.house.access;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Map;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** The page where people sign in. */
@Controller
class SignInController {

    private static final Map<String, String> MESSAGES = Map.of(
            "wrong", "That address and password do not belong together. Check both and try again.",
            "wait", "Too many wrong tries. Wait a minute and try again, or ask an administrator for a new password.",
            "again", "This page had been open too long. Please sign in once more.",
            "over",
                    "Your session had ended before that was sent. Sign in again: replies and notes you were writing are saved as drafts.",
            "out", "You are signed out.");

    @GetMapping("/sign-in")
    String signIn(HttpServletRequest request, Model model, @RequestParam(defaultValue = "") String address) {
        MESSAGES.forEach((key, words) -> {
            if (request.getParameter(key) != null) {
                model.addAttribute("message", words);
                model.addAttribute("bad", !key.equals("out"));
            }
        });
        model.addAttribute("address", address.length() > BoundedSignIn.LONGEST_ADDRESS ? "" : address);
        return "house/access/sign-in";
    }

    /** The token that forms of this session carry, for a page that outlived its session. */
    @GetMapping("/sign-in/token")
    @ResponseBody
    Map<String, String> token(CsrfToken token) {
        return Map.of("token", token.getToken());
    }
}
