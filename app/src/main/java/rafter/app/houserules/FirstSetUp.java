package rafter.app.houserules;

import java.time.Duration;
import java.time.ZoneId;
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
import rafter.app.targets.StarterBook;
import rafter.app.targets.Targets;

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
                workspaces.create(new Workspace("Our service", REOPEN_FOR, true, ACK_SUBJECT, ACK_BODY, secrets.randomBytes(32), 0));
            }
            if (!targets.any()) {
                targets.begin(StarterBook.in(zone));
            }
            if (!persons.any() && !settings.firstAdministrator().isEmpty()) {
                persons.save(
                        Optional.empty(), "Administrator", settings.firstAdministrator(), Role.ADMINISTRATOR, true, settings.firstPassword(),
                        Set.of(), 0);
                LOG.info("The first administrator is {}", settings.firstAdministrator());
            }
            if (!persons.any()) {
                LOG.warn("Nobody can sign in yet. Set RAFTER_FIRST_ADMINISTRATOR and RAFTER_FIRST_PASSWORD and start again.");
            }
        });
    }
}
