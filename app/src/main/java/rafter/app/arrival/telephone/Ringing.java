package rafter.app.arrival.telephone;

import jakarta.annotation.PreDestroy;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
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
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.telephone.Course;

/** Has the exchange ring whoever gets the ticket of a call that waits, however they got it; whichever node hears of it first does. */
@Component
public class Ringing {

    private static final Logger LOG = LoggerFactory.getLogger(Ringing.class);

    private final CallBook calls;
    private final Tickets tickets;
    private final Persons persons;
    private final Providers providers;
    private final ProviderClient client;
    private final LiveNews news;
    private final boolean enabled;
    private final ExecutorService beside = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().name("ringing").daemon().factory());

    Ringing(
            CallBook calls,
            Tickets tickets,
            Persons persons,
            Providers providers,
            ProviderClient client,
            LiveNews news,
            @Value("${rafter.errands.enabled:true}") boolean enabled) {
        this.calls = calls;
        this.tickets = tickets;
        this.persons = persons;
        this.providers = providers;
        this.client = client;
        this.news = news;
        this.enabled = enabled;
    }

    /** Something happened to a ticket, or may have. */
    @EventListener
    void hear(News told) {
        if (!enabled) {
            return;
        }
        if (told.topic().equals("ticket")) {
            beside.execute(() -> quietly(new TicketNumber(told.number())));
        } else if (told.topic().equals("all")) {
            beside.execute(() -> calls.going().forEach(call -> call.ticket().ifPresent(this::quietly)));
        }
    }

    private void quietly(TicketNumber ticket) {
        try {
            look(ticket);
        } catch (RuntimeException e) {
            LOG.warn("The exchange could not be asked to ring for ticket {}: {}", ticket, e.toString());
        }
    }

    /** Has the exchange ring the owner of a ticket whose call waits. */
    private void look(TicketNumber ticket) {
        Optional<CallBook.Call> waiting = calls.of(ticket)
                .filter(CallBook.Call::goesOn)
                .filter(call -> call.incoming() && call.state() == Course.State.WAITING);
        if (waiting.isEmpty()) {
            return;
        }
        TicketNumber number = calls.goesOn(ticket);
        Optional.ofNullable(tickets.find(List.of(number)).get(number))
                .flatMap(one -> one.owner())
                .ifPresent(owner -> ring(waiting.get(), owner));
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

    @PreDestroy
    void end() {
        beside.shutdownNow();
    }
}
