package rafter.app.houserules;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.beans.factory.InitializingBean;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.access.Persons;
import rafter.app.access.Role;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.Secrets;
import rafter.app.platform.Workspace;
import rafter.app.platform.Workspaces;
import rafter.app.targets.Targets;
import rafter.core.target.Objective;
import rafter.core.target.Promise;
import rafter.core.ticket.Priority;
import rafter.core.time.WorkCalendar;

/** Makes an empty database usable: opening hours, targets, an acknowledgement, and the first administrator from the settings. */
@Component
public class FirstSetUp implements InitializingBean {

    private static final Logger LOG = LoggerFactory.getLogger(FirstSetUp.class);
    private static final Duration REOPEN_FOR = Duration.ofDays(7);
    private static final String ACK_SUBJECT = "We have your request, number {ticket}";
    private static final String ACK_BODY = """
            Hello {first name},

            thank you for writing to {workspace}. Your request “{subject}” has reached us and has the number {ticket}.

            A person will read it and answer you. To add something, just answer this mail.

            {workspace}
            """;

    private final Workspaces workspaces;
    private final Targets targets;
    private final Persons persons;
    private final Secrets secrets;
    private final RafterSettings settings;
    private final TransactionTemplate transaction;
    private final ZoneId zone;

    FirstSetUp(
            Workspaces workspaces,
            Targets targets,
            Persons persons,
            Secrets secrets,
            RafterSettings settings,
            TransactionTemplate transaction,
            @Value("${rafter.zone:Europe/Oslo}") ZoneId zone) {
        this.workspaces = workspaces;
        this.targets = targets;
        this.persons = persons;
        this.secrets = secrets;
        this.settings = settings;
        this.transaction = transaction;
        this.zone = zone;
    }

    @Override
    public void afterPropertiesSet() {
        transaction.executeWithoutResult(status -> {
            if (!workspaces.exists()) {
                create("Our service", WorkCalendar.weekly(
                        "Opening hours", zone, LocalTime.of(8, 0), LocalTime.of(17, 0),
                        DayOfWeek.MONDAY, DayOfWeek.TUESDAY, DayOfWeek.WEDNESDAY, DayOfWeek.THURSDAY, DayOfWeek.FRIDAY));
            }
            if (!persons.any() && !settings.firstAdministrator().isEmpty()) {
                persons.save(
                        Optional.empty(), "Administrator", settings.firstAdministrator(), Role.ADMINISTRATOR, true, settings.firstPassword(),
                        Set.of(), 0);
                LOG.info("The first administrator is {}", settings.firstAdministrator());
            }
        });
    }

    /** Sets up a workspace with its opening hours and the usual targets. */
    public void create(String name, WorkCalendar calendar) {
        long policy = targets.addPolicy("Everybody", targets.addCalendar(calendar), usualPromise());
        workspaces.create(new Workspace(name, policy, REOPEN_FOR, true, ACK_SUBJECT, ACK_BODY, secrets.randomBytes(32), 0));
    }

    private static Promise usualPromise() {
        var durations = new EnumMap<Objective, Map<Priority, Duration>>(Objective.class);
        durations.put(Objective.FIRST_REPLY, byPriority(List.of(1, 2, 4, 9)));
        durations.put(Objective.NEXT_REPLY, byPriority(List.of(1, 3, 6, 18)));
        durations.put(Objective.RESOLUTION, byPriority(List.of(8, 18, 27, 45)));
        return new Promise(durations);
    }

    private static Map<Priority, Duration> byPriority(List<Integer> hours) {
        var all = new EnumMap<Priority, Duration>(Priority.class);
        for (Priority priority : Priority.values()) {
            all.put(priority, Duration.ofHours(hours.get(priority.ordinal())));
        }
        return all;
    }
}
