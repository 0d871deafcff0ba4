package rafter.app.house.access;

import java.util.Optional;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import rafter.app.platform.Problem;

/** Answers who is acting and whether they may. */
@Component
public class Access {

    private final Persons persons;
    private final Viewers viewers;

    Access(Persons persons, Viewers viewers) {
        this.persons = persons;
        this.viewers = viewers;
    }

    /**
     * Who is acting in this request.
     *
     * @throws Problem.NoRight when nobody is signed in, or whoever it was has left
     */
    public Viewer me() {
        return whoever()
                .map(viewers::of)
                .orElseThrow(() ->
                        new Problem.NoRight("You are not signed in, or an administrator has ended your sign-in."));
    }

    /** Who is acting in this request, if anybody who works here is. */
    Optional<Person> whoever() {
        var authentication = SecurityContextHolder.getContext().getAuthentication();
        return authentication != null && authentication.getPrincipal() instanceof SignedIn signedIn
                ? persons.find(signedIn.person()).filter(Person::active)
                : Optional.empty();
    }

    /**
     * Who is acting, provided they have the right.
     *
     * @throws Problem.NoRight when they lack it
     */
    public Viewer require(Right right) {
        Viewer me = me();
        require(me, right);
        return me;
    }

    /**
     * Insists on a right.
     *
     * @throws Problem.NoRight when whoever looks or acts lacks it
     */
    public static void require(Viewer viewer, Right right) {
        require(viewer.person(), right);
    }

    static void require(Person person, Right right) {
        if (!person.role().has(right)) {
            throw new Problem.NoRight(
                    switch (right) {
                        case WORK -> "You may not work on tickets.";
                        case HAND_OVER_ANY ->
                            "A colleague owns this ticket. Take it first, or ask a lead to hand it over.";
                        case DELETE -> "Only administrators delete tickets.";
                        case HOUSE_RULES -> "House rules are for administrators.";
                    });
        }
    }
}
