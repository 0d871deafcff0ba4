package rafter.app.arrival.telephone;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.UUID;
import org.springframework.stereotype.Component;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLines;
import rafter.app.arrival.providers.Provider;
import rafter.app.platform.Problem;
import rafter.app.tickets.channel.Abilities;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Delivery;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** Telephone as a channel of tickets: our lines are our addresses; nothing is written by it, for an answer is a call. */
@Component
class TelephoneChannel implements Channel {

    static final String KEY = "telephone";

    private static final Abilities ABILITIES =
            new Abilities(false, false, OptionalInt.of(0), false, false, false, false, "one of us spoke with them");

    private final OurLines lines;

    TelephoneChannel(OurLines lines) {
        this.lines = lines;
    }

    @Override
    public String key() {
        return KEY;
    }

    @Override
    public String name() {
        return "telephone";
    }

    @Override
    public String settings() {
        return "/house-rules/telephone";
    }

    @Override
    public Abilities abilities() {
        return ABILITIES;
    }

    @Override
    public List<OurAddress> addresses() {
        return lines.all(Provider.Kind.TELEPHONE).stream()
                .map(OurLine::asAddress)
                .toList();
    }

    @Override
    public Optional<OurAddress> ours(long id) {
        return lines.of(id).map(OurLine::asAddress);
    }

    @Override
    public boolean isOurs(String address) {
        return false;
    }

    @Override
    public boolean writable(String address) {
        return false;
    }

    @Override
    public List<String> typed(String list, String where) {
        if (list.isBlank()) {
            return List.of();
        }
        throw nothingWritten();
    }

    private static Problem.Invalid nothingWritten() {
        return new Problem.Invalid(
                "Nothing can be written by telephone. Call, or choose another way; your text is saved.");
    }

    @Override
    public String desk(TicketNumber ticket) {
        return "/calls/of/" + ticket;
    }

    @Override
    public String newIdentity(TicketNumber ticket, OurAddress from) {
        return "call." + ticket + "." + UUID.randomUUID();
    }

    @Override
    public void send(Outgoing message) {
        throw nothingWritten();
    }

    @Override
    public Map<MessageId, Delivery> deliveries(Collection<MessageId> entries) {
        return Map.of();
    }

    @Override
    public void again(long delivery, Instant now, PersonId by) {
        throw nothingWritten();
    }
}
