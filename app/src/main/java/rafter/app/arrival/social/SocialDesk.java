package rafter.app.arrival.social;

import java.time.Clock;
import java.util.EnumSet;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.arrival.providers.Errands;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLines;
import rafter.app.arrival.providers.ProviderClient;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.writing.Answering;
import rafter.core.id.TicketNumber;
import rafter.core.social.Wording;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Way;

/** What people do about posts. */
@Component
public class SocialDesk {

    private static final String UNCHANGED = " Nothing was changed.";
    private static final Set<Posts.State> LOOKED_AT =
            EnumSet.of(Posts.State.NEW, Posts.State.ARCHIVED, Posts.State.NOISE, Posts.State.ASIDE);

    /**
     * An answer to a post.
     *
     * @param publicly whether everybody can read it
     * @param account from which of our accounts; 0: the one that was written to
     * @param then whose turn it is afterwards
     */
    public record Answer(String text, boolean publicly, long account, Turn then) {}

    private final Posts posts;
    private final PostTickets making;
    private final SocialRules rules;
    private final OurLines lines;
    private final Errands errands;
    private final Tickets tickets;
    private final Acts acts;
    private final Answering answering;
    private final LiveNews news;
    private final Clock clock;

    SocialDesk(
            Posts posts,
            PostTickets making,
            SocialRules rules,
            OurLines lines,
            Errands errands,
            Tickets tickets,
            Acts acts,
            Answering answering,
            LiveNews news,
            Clock clock) {
        this.posts = posts;
        this.making = making;
        this.rules = rules;
        this.lines = lines;
        this.errands = errands;
        this.tickets = tickets;
        this.acts = acts;
        this.answering = answering;
        this.news = news;
        this.clock = clock;
    }

    /**
     * A post, for somebody who may see its ticket where it has one.
     *
     * @throws Problem.NotFound when there is none within their reach
     */
    public Posts.Post post(long id, Viewer me) {
        Access.require(me, Right.WORK);
        return posts.find(id)
                .filter(post -> post.ticket().isEmpty() || sees(post.ticket().get(), me))
                .orElseThrow(() -> new Problem.NotFound("There is no such post."));
    }

    private boolean sees(TicketNumber number, Viewer me) {
        return tickets.find(number, me).isPresent();
    }

    private Posts.Post held(long id, Viewer me) {
        post(id, me);
        return posts.hold(id).orElseThrow();
    }

    /** Makes a ticket of a post. */
    @Transactional
    public TicketNumber makeTicket(long id, Viewer me) {
        TicketNumber number = making.open(held(id, me));
        news.posts();
        return number;
    }

    /** It needs nothing. */
    @Transactional
    public void archive(long id, Viewer me) {
        move(id, Posts.State.ARCHIVED, me);
    }

    /** It is looked at once more; the mark that made it noise counts no more, where one is named. */
    @Transactional
    public void again(long id, Optional<Long> mark, Viewer me) {
        mark.ifPresent(one -> rules.unmark(one, true, me.id()));
        move(id, Posts.State.NEW, me);
    }

    private void move(long id, Posts.State to, Viewer me) {
        held(id, me);
        if (!posts.move(id, LOOKED_AT, to, "", me.id(), clock.instant())) {
            throw new Problem.Stale("It is a ticket already, or ours." + UNCHANGED);
        }
        news.posts();
    }

    /**
     * It is noise, and what comes from its sender, or what is worded so, is set aside from now on.
     *
     * @return the mark, to take it back
     * @throws Problem.Invalid when its wording says too little to be known again
     */
    @Transactional
    public long noise(long id, boolean sender, Viewer me) {
        Posts.Post post = held(id, me);
        if (!sender && !Wording.tells(Wording.of(post.text()))) {
            throw new Problem.Invalid(
                    "These words say too little to be known again. Mark the sender instead." + UNCHANGED);
        }
        move(id, Posts.State.NOISE, me);
        return rules.mark(
                post.provider(),
                sender ? Optional.of(post.handle()) : Optional.empty(),
                sender ? Optional.empty() : Optional.of(post.text()),
                me.id());
    }

    /** Hides an answer beneath our post, or shows it again; the network does it. */
    @Transactional
    public void hide(long id, boolean hidden, Viewer me) {
        Posts.Post post = held(id, me);
        if (post.kind() != Posts.Kind.REPLY) {
            throw new Problem.Invalid("Only what answers a post of ours can be hidden there." + UNCHANGED);
        }
        String verb = hidden ? "/hide" : "/show";
        put(post, "POST", verb);
        posts.hidden(id, hidden ? Optional.of(clock.instant()) : Optional.empty());
        news.posts();
    }

    /** Takes a post of ours away; the network does it, and tells. */
    @Transactional
    public void takeAway(long id, Viewer me) {
        Posts.Post post = held(id, me);
        if (post.kind() != Posts.Kind.OURS) {
            throw new Problem.Invalid("Only our own can be taken away." + UNCHANGED);
        }
        put(post, "DELETE", "");
        news.posts();
    }

    private void put(Posts.Post post, String verb, String what) {
        errands.put(new Errands.Errand(
                post.provider(),
                "deed." + UUID.randomUUID(),
                verb,
                "/posts/" + ProviderClient.part(post.outsideId()) + what,
                Map.of(
                        "account",
                        post.line().flatMap(lines::of).map(OurLine::address).orElse("")),
                post.ticket(),
                Optional.empty()));
    }

    /**
     * Answers a post; it becomes a ticket where it is none.
     *
     * @throws Problem.Invalid when there are no words, too many, or something in braces has no value
     */
    @Transactional
    public TicketNumber answer(long id, Answer answer, Viewer me) {
        Posts.Post post = held(id, me);
        if (answer.text().isBlank()) {
            throw new Problem.Invalid("Write an answer first." + UNCHANGED);
        }
        if (!post.kind().watched()) {
            throw new Problem.Invalid("Only what others wrote to us, or of us, is answered here." + UNCHANGED);
        }
        TicketNumber number = post.ticket().orElseGet(() -> making.open(post));
        Ticket ticket = tickets.get(number, me);
        OurLine from = lines.at(post.provider()).stream()
                .filter(line -> answer.account() == 0
                        ? post.line().isEmpty() || post.line().get() == line.id()
                        : line.id() == answer.account())
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("We have no such account there." + UNCHANGED));
        var way = new Way(answer.publicly() ? PublicPosts.KEY : PrivateMessages.KEY, OptionalLong.of(from.id()));
        if (!ticket.way().equals(way)) {
            acts.perform(number, new Act.AnswerBy(way), me);
        }
        var written = new Answering.Answer(
                SafeHtml.fromText(answer.text()), "", Optional.of(""), "", answer.then(), Integer.MAX_VALUE, false);
        switch (answering.answer(number, written, me)) {
            case Answering.Outcome.Sent sent -> {}
            case Answering.Outcome.Crossed crossed -> throw new Problem.Stale(crossed.words());
            case Answering.Outcome.Gaps gaps -> throw new Problem.Invalid(gaps.words() + UNCHANGED);
        }
        news.posts();
        return number;
    }
}
