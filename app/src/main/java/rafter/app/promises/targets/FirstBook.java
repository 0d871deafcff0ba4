package rafter.app.promises.targets;

import java.time.ZoneId;
import org.springframework.beans.factory.InitializingBean;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Gives an empty database opening hours and targets to begin with. */
@Component
class FirstBook implements InitializingBean {

    private final Targets targets;
    private final TransactionTemplate transaction;
    private final ZoneId zone;

    FirstBook(Targets targets, TransactionTemplate transaction, @Value("${rafter.zone:Europe/Oslo}") ZoneId zone) {
        this.targets = targets;
        this.transaction = transaction;
        this.zone = zone;
    }

    @Override
    public void afterPropertiesSet() {
        transaction.executeWithoutResult(status -> {
            if (!targets.any()) {
                targets.begin(StarterBook.in(zone));
            }
        });
    }
}
