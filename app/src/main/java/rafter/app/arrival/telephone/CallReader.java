package rafter.app.arrival.telephone;

import java.time.Duration;
import java.util.List;
import java.util.Optional;
import rafter.app.arrival.providers.Told;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.telephone.CallEvent;

/** Reads what an exchange tells, as the contract of telephone exchanges has it. */
final class CallReader {

    private static final int LONGEST_NUMBER = 40;
    private static final int SECONDS_OF_A_DAY = 86_400;

    /** A file that the exchange has of a call. */
    public record FileTold(boolean voice, String path) {}

    private CallReader() {}

    /** What happened to a call, as far as it tells of its course. */
    static List<CallEvent> events(List<Told> all) {
        return all.stream().flatMap(one -> event(one).stream()).toList();
    }

    private static Optional<CallEvent> event(Told told) {
        return switch (told.what()) {
            case "began" ->
                Optional.of(new CallEvent.Began(
                        told.id(), told.at(), !told.is("outgoing"), cut(told.text("number", "")), told.text("line")));
            case "taken" -> Optional.of(new CallEvent.Taken(told.id(), told.at(), person(told)));
            case "held" -> Optional.of(new CallEvent.Held(told.id(), told.at()));
            case "resumed" -> Optional.of(new CallEvent.Resumed(told.id(), told.at()));
            case "spoken" ->
                Optional.of(new CallEvent.Spoken(
                        told.id(), told.at(), Duration.ofSeconds(Math.min(told.number("seconds"), SECONDS_OF_A_DAY))));
            case "ended" -> Optional.of(new CallEvent.Ended(told.id(), told.at()));
            case "noticed", "recorded" -> Optional.empty();
            default -> throw told.unreadable("nothing is known of “" + told.what() + "” of a call");
        };
    }

    private static PersonId person(Told told) {
        return Id.read(told.text("person"), PersonId::new)
                .orElseThrow(() -> told.unreadable("“person” is nobody whom we had you ring"));
    }

    private static String cut(String number) {
        String bare = number.strip();
        return bare.length() > LONGEST_NUMBER ? bare.substring(0, LONGEST_NUMBER) : bare;
    }

    /** The files of a call that were told of. */
    static List<FileTold> files(List<Told> all) {
        return all.stream()
                .filter(one -> one.what().equals("spoken") || one.what().equals("recorded"))
                .filter(one -> !one.text("file", "").isEmpty())
                .map(one -> new FileTold(one.what().equals("spoken"), one.text("file")))
                .toList();
    }
}
