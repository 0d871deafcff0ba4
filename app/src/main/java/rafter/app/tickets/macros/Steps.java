package rafter.app.tickets.macros;

import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.TicketTimes;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActForm;
import rafter.core.time.Amount;

/** Makes acts of the steps of a macro: who runs it and when are put in each time. */
@Component
class Steps {

    /** The acts that a macro can be made of. */
    static final List<ActForm> OFFERED = List.of(
            ActForm.ANSWER,
            ActForm.NOTE,
            ActForm.STATE,
            ActForm.PRIORITY,
            ActForm.RAISE,
            ActForm.PERSON,
            ActForm.TEAM,
            ActForm.TOPIC,
            ActForm.TAG,
            ActForm.UNTAG,
            ActForm.QUEUE,
            ActForm.SKILL,
            ActForm.POLICY,
            ActForm.FIELD,
            ActForm.TASK,
            ActForm.WATCH,
            ActForm.BACK,
            ActForm.TIME,
            ActForm.CONCLUDE);

    private static final Set<String> PLACEHOLDERS = Placeholder.names(Placeholder.forWriting());
    private static final String ME = "me";

    private final TicketTimes times;
    private final Targets targets;
    private final Clock clock;

    Steps(TicketTimes times, Targets targets, Clock clock) {
        this.times = times;
        this.targets = targets;
        this.clock = clock;
    }

    /**
     * The act of a step, run by somebody now.
     *
     * @throws Problem.Invalid when something in it is missing or wrong
     */
    Act act(Macro.Step step, Viewer me) {
        ActForm form = ActForm.of(step.form())
                .filter(OFFERED::contains)
                .orElseThrow(() -> new Problem.Invalid("Choose what is to be done. Nothing was saved yet."));
        var typed = new HashMap<>(step.typed());
        typed.replaceAll((name, value) ->
                name.equals("person") && value.equals(ME) ? me.id().toString() : value);
        if (form == ActForm.TIME) {
            typed.put("person", me.id().toString());
            typed.put("ended", clock.instant().toString());
        }
        try {
            return form.read(new ActForm.Filled(typed, this::when, PLACEHOLDERS));
        } catch (ActForm.Unfilled e) {
            throw new Problem.Invalid(e.words() + " Nothing was done yet.");
        }
    }

    /** An amount of time from now, up to the next moment at which we are open; or a time itself. */
    private Optional<Instant> when(String typed) {
        Optional<Instant> ahead = Amount.read(typed.startsWith("+") ? typed.substring(1) : typed)
                .map(clock.instant()::plus)
                .map(at -> targets.terms().hours().nextOpen(at).orElse(at));
        return ahead.isPresent() ? ahead : times.read(typed);
    }

    /** The acts of a macro. */
    List<Act> acts(List<Macro.Step> steps, Viewer me) {
        return steps.stream().map(step -> act(step, me)).toList();
    }

    /** What is kept of a form in which a step was filled in: the fields that its act has. */
    static Map<String, String> kept(ActForm form, Map<String, String> all) {
        var kept = new HashMap<String, String>();
        for (String field : form.fields()) {
            String value = all.getOrDefault(field, "");
            if (!value.isBlank()) {
                kept.put(field, value);
            }
        }
        return kept;
    }
}
