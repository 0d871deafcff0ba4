package rafter.app.house.rules;

import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/** The way into the house rules. */
@Controller
class HouseRulesController {

    @GetMapping("/house-rules")
    String first() {
        return "redirect:/house-rules/email";
    }
}
