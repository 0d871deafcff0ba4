package rafter.app.arrival.telephone;

import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import rafter.app.arrival.providers.ProviderClient;
import rafter.app.arrival.providers.Providers;
import rafter.app.house.access.Persons;
import rafter.app.platform.LiveNews;
import rafter.app.platform.News;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** Has the exchange ring whoever gets the ticket of a call that waits, however they got it; whichever node hears of it first does. */
@Component
public class Ringing {

    private static final Logger LOG = LoggerFactory.getLogger(Ringing.class);

    private static final Duration END_WITHIN = Duration.ofSeconds(5);

    private final CallBook calls;
    private final Persons persons;
    private final Providers providers;
    private final ProviderClient client;
    private final LiveNews news;
    private final boolean enabled;
    private final Set<TicketNumber> toldOf = ConcurrentHashMap.newKeySet();
    private final AtomicBoolean toldOfAll = new AtomicBoolean();
    /** Whether a look is going to begin. */
    private final AtomicBoolean coming = new AtomicBoolean();

    private final ExecutorService beside = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().name("ringing").daemon().factory());

    Ringing(
            CallBook calls,
            Persons persons,
            Providers providers,
            ProviderClient client,
            LiveNews news,
            @Value("${rafter.errands.enabled:true}") boolean enabled) {
        this.calls = calls;
        this.persons = persons;
        this.providers = providers;
        this.client = client;
        this.news = news;
        this.enabled = enabled;
    }

    /** Something happened to a ticket, or may have: one look follows for all tickets that it is told of until that begins. */
    @EventListener
    void hear(News told) {
        if (!enabled) {
            return;
        }
        if (told.topic().equals("ticket")) {
            toldOf.add(new TicketNumber(told.number()));
        } else if (told.topic().equals("all")) {
            toldOfAll.set(true);
        } else {
            return;
        }
        if (coming.compareAndSet(false, true)) {
            beside.execute(this::look);
        }
    }

    /** Has the exchange ring the owners of those tickets whose calls wait. */
    private void look() {
        coming.set(false);
        boolean all = toldOfAll.getAndSet(false);
        Set<TicketNumber> tickets = Set.copyOf(toldOf);
        toldOf.removeAll(tickets);
        try {
            calls.wanted().stream()
                    .filter(wanted -> all || wanted.tickets().stream().anyMatch(tickets::contains))
                    .forEach(this::quietly);
        } catch (RuntimeException e) {
            LOG.warn("Nobody could be looked for whom the exchange should ring: {}", e.toString());
        }
    }

    private void quietly(CallBook.Wanted wanted) {
        try {
            ring(wanted.call(), wanted.owner());
        } catch (RuntimeException e) {
            LOG.warn(
                    "The exchange could not be asked to ring for call {}: {}",
                    wanted.call().id(),
                    e.toString());
        }
    }

    /** Asks the exchange to ring somebody; what went wrong is told on the call’s sheet. */
    Optional<String> ring(CallBook.Call call, PersonId person) {
        if (!calls.ring(call.id(), person)) {
            return Optional.empty();
        }
        String name = persons.find(person).map(one -> one.name()).orElse("");
        Optional<String> trouble = providers
                .of(call.provider())
                .map(provider -> client.tell(
                        provider,
                        "POST",
                        "/calls/" + ProviderClient.part(call.outsideId()) + "/ring",
                        Map.of("person", person.toString(), "name", name)))
                .orElseGet(() -> new ProviderClient.Answer.Refused("The exchange is not there any more."))
                .trouble();
        if (trouble.isPresent()) {
            calls.ringsNobody(call.id());
        }
        news.call(call.id());
        return trouble;
    }

    /** Ends after what has begun. */
    @PreDestroy
    void end() throws InterruptedException {
        beside.shutdown();
        if (!beside.awaitTermination(END_WITHIN.toSeconds(), TimeUnit.SECONDS)) {
            beside.shutdownNow();
        }
    }
}
