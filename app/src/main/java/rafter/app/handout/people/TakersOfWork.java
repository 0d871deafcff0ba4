package rafter.app.handout.people;

import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.ToDoubleFunction;
import org.springframework.context.event.EventListener;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.News;
import rafter.app.tickets.channel.Takers;
import rafter.core.id.TeamId;
import rafter.core.routing.Worker;

/** Who could take what comes by a channel: those who are here and take work, each as often as their limit holds one. */
@Component
class TakersOfWork implements Takers {

    private final HandOutSettings settings;
    private final BrieflyCached<List<Worker>> workers;

    TakersOfWork(Workforce workforce, HandOutSettings settings) {
        this.settings = settings;
        this.workers = new BrieflyCached<>(Duration.ofSeconds(2), workforce::workers);
    }

    @Override
    public Room room(String channel, Optional<TeamId> team) {
        double units = settings.rules().units(channel);
        List<Worker> able = workers.get().stream()
                .filter(one -> one.unavailable().isEmpty() && one.limit() >= units)
                .filter(one -> team.isEmpty() || one.teams().contains(team.get()))
                .toList();
        return new Room(
                able.size(), fits(able, units, Worker::limit), fits(able, units, one -> one.limit() - one.used()));
    }

    /** Who came or went counts at once; before pages hear of it, for they ask for what it makes old. */
    @EventListener
    @Order(Ordered.HIGHEST_PRECEDENCE)
    void tell(News news) {
        if (news.topic().equals("floor") || news.topic().equals("all")) {
            workers.forget();
        }
    }

    private static int fits(List<Worker> workers, double units, ToDoubleFunction<Worker> room) {
        // What costs nothing could go on without end; one each is what is said then.
        return workers.stream()
                .mapToInt(one -> units <= 0 ? 1 : (int) Math.floor(Math.max(0, room.applyAsDouble(one)) / units + 1e-9))
                .sum();
    }
}
