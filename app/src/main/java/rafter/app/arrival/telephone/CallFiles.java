package rafter.app.arrival.telephone;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.arrival.providers.OurLines;
import rafter.app.arrival.providers.ProviderClient;
import rafter.app.arrival.providers.Providers;
import rafter.app.arrival.providers.Told;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.platform.DueWork;
import rafter.app.platform.Files;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.acts.Arrivals;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.NotesBeside;
import rafter.app.tickets.acts.RafterNotes;
import rafter.core.id.TicketNumber;

/** Fetches what was spoken on our machine, and what was recorded, from the exchange; while it does not answer, again and again. */
@Component
public class CallFiles {

    private static final Duration PAUSE = Duration.ofSeconds(3);
    private static final int MOST_TRIES = 12;
    private static final Duration LONGEST_WAIT = Duration.ofHours(1);
    private static final Map<String, String> ENDINGS = Map.of(
            "audio/wav", "wav", "audio/x-wav", "wav", "audio/mpeg", "mp3", "audio/ogg", "ogg", "audio/webm", "webm");

    /** Looks again and again. */
    @Configuration(proxyBeanMethods = false)
    static class Timer {
        @Bean
        RecurringTask<Void> fetchCallFiles(CallFiles files) {
            return DueWork.inParts("fetch-call-files", PAUSE, 1, () -> files.fetchOne() ? 1 : 0);
        }
    }

    private final CallBook calls;
    private final CallFileBook book;
    private final Providers providers;
    private final OurLines lines;
    private final ProviderClient client;
    private final Files files;
    private final Contacts contacts;
    private final Arrivals arrivals;
    private final RafterNotes notes;
    private final NotesBeside tickets;
    private final TransactionTemplate transaction;
    private final Clock clock;

    CallFiles(
            CallBook calls,
            CallFileBook book,
            Providers providers,
            OurLines lines,
            ProviderClient client,
            Files files,
            Contacts contacts,
            Arrivals arrivals,
            RafterNotes notes,
            NotesBeside tickets,
            TransactionTemplate transaction,
            Clock clock) {
        this.calls = calls;
        this.book = book;
        this.providers = providers;
        this.lines = lines;
        this.client = client;
        this.files = files;
        this.contacts = contacts;
        this.arrivals = arrivals;
        this.notes = notes;
        this.tickets = tickets;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** Fetches one that is due; false: none is. */
    public boolean fetchOne() {
        return Boolean.TRUE.equals(transaction.execute(status -> {
            Optional<CallFileBook.FileOf> due = book.fileDue(clock.instant());
            due.ifPresent(this::fetch);
            return due.isPresent();
        }));
    }

    private void fetch(CallFileBook.FileOf file) {
        CallBook.Call call = calls.find(file.call()).orElseThrow();
        TicketNumber ticket = calls.goesOn(call.ticket().orElseThrow());
        try {
            ProviderClient.Fetched fetched = client.fetch(
                    providers
                            .of(call.provider())
                            .orElseThrow(() -> new Told.Unreadable("the exchange is not there any more")),
                    file.path());
            keep(call, ticket, file.voice(), fetched);
            book.fileDone(file, !file.voice(), Optional.empty());
        } catch (ProviderClient.Unfetched e) {
            if (file.tries() + 1 >= MOST_TRIES) {
                giveUp(file, ticket, String.valueOf(e.getMessage()));
            } else {
                Duration pause = Duration.ofSeconds(2L << file.tries());
                book.fileDone(
                        file,
                        false,
                        Optional.of(clock.instant().plus(pause.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : pause)));
            }
        } catch (Told.Unreadable e) {
            giveUp(file, ticket, String.valueOf(e.getMessage()));
        }
    }

    private void giveUp(CallFileBook.FileOf file, TicketNumber ticket, String why) {
        String what = file.voice() ? "What was spoken on the machine" : "The recording of the call";
        notes.add(ticket, what + " could not be had: " + why + ".", List.of(), clock.instant());
        book.fileDone(file, false, Optional.empty());
    }

    private void keep(CallBook.Call call, TicketNumber ticket, boolean voice, ProviderClient.Fetched fetched) {
        String type = fetched.mediaType().toLowerCase(Locale.ROOT);
        String name = (voice ? "message" : "recording") + "." + ENDINGS.getOrDefault(type, "bin");
        byte[] sha256 = files.keep(fetched.content());
        var kept = List.of(new NewMessage.FileRef(sha256, name, type, fetched.content().length, ""));
        Instant now = clock.instant();
        if (!voice) {
            String noticed =
                    call.noticedAt().isPresent() ? "" : " The exchange did not tell that the notice was played.";
            notes.add(
                    ticket,
                    "The call was recorded, " + CallWords.length(call.talked().plus(call.held())) + "." + noticed,
                    kept,
                    now);
            return;
        }
        leftMessage(call, ticket, kept, now);
    }

    /** What was spoken on the machine is an entry of the customer's. */
    private void leftMessage(CallBook.Call call, TicketNumber ticket, List<NewMessage.FileRef> kept, Instant now) {
        Contact contact = contacts.get(tickets.hold(ticket).contact());
        String words = "Left a message of " + CallWords.length(call.message().orElse(Duration.ZERO)) + ".";
        var entry = new NewMessage(
                NewMessage.Kind.CUSTOMER,
                now,
                contact.addresses().isEmpty() && contact.name().isBlank() ? "Caller" : contact.name(),
                Optional.of(contact.id()),
                Optional.empty(),
                new NewMessage.Envelope(call.number(), "", List.of(), List.of(), "", Optional.empty()),
                SafeHtml.fromText(words),
                words,
                Optional.empty(),
                "",
                kept);
        arrivals.join(
                ticket,
                contact,
                entry,
                false,
                lines.of(call.line()).orElseThrow().way(TelephoneChannel.KEY));
    }
}
