package rafter.app.house.access;

import java.util.Optional;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import org.springframework.web.context.request.RequestAttributes;
import org.springframework.web.context.request.RequestContextHolder;
import rafter.app.platform.Problem;

/** Answers who is acting and whether they may. */
@Component
public class Access {

    private static final String ACTING = Access.class.getName() + ".acting";

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

    /** Who is acting in this request, if anybody who works here is; looked for once in a request. */
    Optional<Person> whoever() {
        var authentication = SecurityContextHolder.getContext().getAuthentication();
        if (authentication == null || !(authentication.getPrincipal() instanceof SignedIn signedIn)) {
            return Optional.empty();
        }
        RequestAttributes request = RequestContextHolder.getRequestAttributes();
        return request == null ? find(signedIn) : find(signedIn, request);
    }

    private Optional<Person> find(SignedIn signedIn, RequestAttributes request) {
        if (request.getAttribute(ACTING, RequestAttributes.SCOPE_REQUEST) instanceof Person person
                && person.id().equals(signedIn.person())) {
            return Optional.of(person);
        }
        Optional<Person> found = find(signedIn);
        found.ifPresent(person -> request.setAttribute(ACTING, person, RequestAttributes.SCOPE_REQUEST));
        return found;
    }

    private Optional<Person> find(SignedIn signedIn) {
        return persons.find(signedIn.person()).filter(Person::active);
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
