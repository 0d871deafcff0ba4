package rafter.app.house.rules;

import java.time.Duration;
import java.util.Optional;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.InitializingBean;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Role;
import rafter.app.platform.Guard;
import rafter.app.platform.RafterSettings;
import rafter.app.platform.Secrets;
import rafter.app.platform.Workspace;
import rafter.app.platform.Workspaces;

/** Makes an empty database usable: the workspace, and the first administrator from the settings. */
@Component
public class FirstSetUp implements InitializingBean {

    private static final Logger LOG = LoggerFactory.getLogger(FirstSetUp.class);
    private static final Duration REOPEN_FOR = Duration.ofDays(7);
    private final Workspaces workspaces;
    private final Persons persons;
    private final Secrets secrets;
    private final RafterSettings settings;
    private final TransactionTemplate transaction;

    FirstSetUp(
            Workspaces workspaces,
            Persons persons,
            Secrets secrets,
            RafterSettings settings,
            TransactionTemplate transaction) {
        this.workspaces = workspaces;
        this.persons = persons;
        this.secrets = secrets;
        this.settings = settings;
        this.transaction = transaction;
    }

    @Override
    public void afterPropertiesSet() {
        transaction.executeWithoutResult(status -> {
            workspaces.holdForSetUp();
            if (!workspaces.exists()) {
                workspaces.create(new Workspace("Our service", REOPEN_FOR, true, secrets.randomBytes(32), 0));
            }
            if (!persons.any() && !settings.firstAdministrator().isEmpty()) {
                persons.save(
                        Optional.empty(),
                        "Administrator",
                        settings.firstAdministrator(),
                        Role.ADMINISTRATOR,
                        true,
                        settings.firstPassword(),
                        Set.of(),
                        Guard.ITSELF);
                LOG.info("The first administrator is {}", settings.firstAdministrator());
            }
            if (!persons.any()) {
                LOG.warn(
                        "Nobody can sign in yet. Set RAFTER_FIRST_ADMINISTRATOR and RAFTER_FIRST_PASSWORD and start again.");
            }
        });
    }
}
