package rafter.app.arrival.social;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLines;
import rafter.app.house.people.Contact;
import rafter.app.house.people.KnownBy;
import rafter.app.platform.HomeZone;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Say;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.Arrivals;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Ticket;

/** Makes tickets of posts; what somebody writes in the same thread, or privately, goes on in the ticket that is there. */
@Component
class PostTickets {

    private static final int SUBJECT = 80;
    private static final String DELETED = "This was deleted by whoever wrote it.";

    private final Posts posts;
    private final OurLines lines;
    private final KnownBy known;
    private final SocialRules rules;
    private final Arrivals arrivals;
    private final Tickets tickets;
    private final Workspaces workspaces;
    private final HomeZone home;
    private final Clock clock;

    PostTickets(
            Posts posts,
            OurLines lines,
            KnownBy known,
            SocialRules rules,
            Arrivals arrivals,
            Tickets tickets,
            Workspaces workspaces,
            HomeZone home,
            Clock clock) {
        this.posts = posts;
        this.lines = lines;
        this.known = known;
        this.rules = rules;
        this.arrivals = arrivals;
        this.tickets = tickets;
        this.workspaces = workspaces;
        this.home = home;
        this.clock = clock;
    }

    /** The ticket in which a post goes on by itself; nothing where there is none, or it is over for good. */
    Optional<TicketNumber> goesOnIn(Posts.Post post) {
        return posts.ticketOf(post.provider(), post.handle(), post.kind(), post.root(), post.line())
                .filter(number -> Optional.ofNullable(
                                tickets.find(List.of(number)).get(number))
                        .filter(this::takes)
                        .isPresent());
    }

    private boolean takes(Ticket ticket) {
        return !ticket.discarded()
                && Conduct.takesAnswers(
                        ticket, clock.instant(), workspaces.current().reopenFor());
    }

    /** Lets a post go on in a ticket. */
    @Transactional(propagation = Propagation.MANDATORY)
    void join(Posts.Post post, TicketNumber number) {
        Instant now = clock.instant();
        Contact contact = known.ofHandle(post.provider(), post.handle(), now);
        MessageId entry = arrivals.join(
                number, contact, entry(post, contact, now), false, way(post).way(channel(post)));
        posts.shownOn(post.id(), number, entry);
    }

    /**
     * Opens a ticket of a post.
     *
     * @throws Problem.Stale when it has one, or its text is gone
     */
    @Transactional(propagation = Propagation.MANDATORY)
    TicketNumber open(Posts.Post post) {
        if (post.ticket().isPresent()) {
            throw new Problem.Stale("It is ticket " + post.ticket().get() + " already. Nothing was changed.");
        }
        if (post.text().isEmpty()) {
            throw new Problem.Stale("Its text is gone. Nothing was changed.");
        }
        Instant now = clock.instant();
        Contact contact = known.ofHandle(post.provider(), post.handle(), now);
        OurLine line = way(post);
        TicketNumber number = arrivals.open(
                new Arrivals.Request(
                        line.way(channel(post)),
                        line.asAddress(),
                        contact,
                        subject(post),
                        entry(post, contact, now),
                        false,
                        true,
                        Optional.empty(),
                        ""),
                workspaces.current());
        posts.shownOn(post.id(), number, arrivals.first(number));
        return number;
    }

    private static String channel(Posts.Post post) {
        return post.publicly() ? PublicPosts.KEY : PrivateMessages.KEY;
    }

    /** The account of ours that it concerns; where it concerns none, the first that we have there. */
    private OurLine way(Posts.Post post) {
        return post.line()
                .flatMap(lines::of)
                .or(() -> lines.at(post.provider()).stream().findFirst())
                .orElseThrow(() -> new Problem.Invalid("We have no account there. Nothing was changed."));
    }

    /** What is deleted may not stay as a subject, which never changes; so the text is one only where it may stay. */
    private String subject(Posts.Post post) {
        if (!rules.rules().keepsDeleted()) {
            return (post.publicly() ? "Post of " : "Message of ")
                    + post.name()
                    + (post.name().equals(post.handle()) ? "" : " (" + post.handle() + ")");
        }
        String line = post.text().strip().replaceAll("\\s+", " ");
        return line.codePointCount(0, line.length()) <= SUBJECT
                ? line
                : line.substring(0, line.offsetByCodePoints(0, SUBJECT)).strip() + " …";
    }

    private NewMessage entry(Posts.Post post, Contact contact, Instant now) {
        return new NewMessage(
                NewMessage.Kind.CUSTOMER,
                now,
                contact.name(),
                Optional.of(contact.id()),
                Optional.empty(),
                new NewMessage.Envelope(post.handle(), "", List.of(), List.of(), "", Optional.empty()),
                SafeHtml.fromText(post.text()),
                post.text(),
                Optional.empty(),
                remark(post),
                List.of());
    }

    /** Shows a post on its ticket as it reads now. */
    @Transactional(propagation = Propagation.MANDATORY)
    void reads(Posts.Post post) {
        post.entry().filter(entry -> post.kind().watched()).ifPresent(entry -> {
            String text = post.text().isEmpty() ? DELETED : post.text();
            arrivals.rewrite(entry, SafeHtml.fromText(text), text, "", remark(post));
        });
    }

    private String remark(Posts.Post post) {
        Instant now = clock.instant();
        if (post.deletedAt().isPresent()) {
            return "Deleted " + Say.when(post.deletedAt().get(), now, home.zone()) + ".";
        }
        return post.editedAt()
                .map(at -> "Edited " + Say.when(at, now, home.zone())
                        + (post.before().isEmpty() ? "." : ". It said: “" + post.before() + "”"))
                .orElse("");
    }
}
