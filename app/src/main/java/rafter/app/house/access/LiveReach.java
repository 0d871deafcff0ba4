package rafter.app.house.access;

import java.util.function.Predicate;
import org.springframework.stereotype.Component;
import rafter.app.platform.Audience;
import rafter.app.platform.News;
import rafter.core.id.TicketNumber;

/** Tells people of their own notices, and of the tickets that they may see. */
@Component
class LiveReach implements Audience {

    private final Access access;
    private final Viewers viewers;

    LiveReach(Access access, Viewers viewers) {
        this.access = access;
        this.viewers = viewers;
    }

    @Override
    public Predicate<News> here() {
        Viewer viewer = access.me();
        return news -> switch (news.topic()) {
            case "ticket", "writing", "talk" -> viewers.maySee(viewer, new TicketNumber(news.number()));
            case "notice", "offer" -> news.number() == viewer.id().value();
            default -> true;
        };
    }
}
