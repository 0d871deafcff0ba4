package rafter.outside.demo;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationContext;
import rafter.app.house.access.Viewer;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.rating.RatingRequests;
import rafter.app.tickets.rating.RatingRules;
import rafter.app.tickets.rating.Ratings;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Await;
import rafter.core.ticket.Call;
import rafter.core.ticket.Help;
import rafter.core.ticket.Meeting;
import rafter.core.ticket.Talk;
import rafter.core.ticket.Work;
import rafter.core.time.WorkingTime;
import rafter.database.Tables;

/** What others have to do with tickets: they are called, asked for help, met, and say how they were helped. */
final class DemoOthers {

    private static final Pattern LINK = Pattern.compile("/rate/([0-9a-f]+)\\?");
    private static final List<String> COMMENTS = List.of(
            "Quick and friendly, thank you.",
            "",
            "",
            "Took a day longer than I was told.",
            "The driver was let through at once.",
            "");

    private static final List<String> QUESTIONS = List.of(
            "Do we still take bicycles on the late sailing?",
            "Is the ramp on the north quay open again?",
            "Who signs for a load above 40 metres?");
    private static final List<String> REPLIES = List.of(
            "Yes, since Monday.", "The duty master does; his number is in the phrasebook.", "Not before Friday.");

    private final Acts acts;
    private final Tickets tickets;
    private final RatingRequests requests;
    private final Ratings ratings;
    private final DSLContext sql;
    private final DemoPeople people;
    private final WorkingTime hours;
    private final Random random;

    DemoOthers(ApplicationContext context, DemoPeople people, Random random) {
        this.acts = context.getBean(Acts.class);
        this.tickets = context.getBean(Tickets.class);
        this.requests = context.getBean(RatingRequests.class);
        this.ratings = context.getBean(Ratings.class);
        this.sql = context.getBean(DSLContext.class);
        this.people = people;
        this.hours = context.getBean(Targets.class).terms().hours();
        this.random = random;
    }

    /** Customers are asked a day after their ticket was resolved. */
    static void askForRatings(ApplicationContext context, Viewer by) {
        RatingRules rules = context.getBean(RatingRules.class);
        RatingRules.Rule was = rules.current();
        rules.change(new RatingRules.Rule(was.version(), true, Duration.ofHours(24), Duration.ofDays(7)), by);
    }

    /** Somebody calls, now and then. */
    void call(TicketNumber number, Viewer agent, Instant at, boolean firm) {
        if (random.nextInt(9) > 0) {
            return;
        }
        boolean incoming = random.nextBoolean();
        var said = new Call.Said(
                incoming,
                agent.id(),
                at.minus(Duration.ofMinutes(12)),
                Duration.ofMinutes(random.nextInt(9)),
                firm ? "Their freight office" : "",
                incoming ? "Asked how it stands." : "Told them where it stands.");
        acts.perform(number, new Act.LogCall(OptionalInt.empty(), said), agent);
    }

    /** A colleague is asked to do a part; most hand it back. */
    Optional<Viewer> ask(TicketNumber number, Viewer agent, Instant at) {
        Viewer helper = people.named(Telling.pick(List.of("Sefa Tui", "Marta Kowal", "Priya Raman"), random));
        if (random.nextInt(7) > 0 || helper.id().equals(agent.id())) {
            return Optional.empty();
        }
        acts.perform(
                number,
                new Act.AskHelp(new Help.Wanted(
                        Optional.of(helper.id()),
                        Optional.empty(),
                        "Please look at the booking system: does it show what the customer sees?",
                        hours.add(at, Duration.ofHours(6)))),
                agent);
        return Optional.of(helper);
    }

    /** What came of it. */
    void handBack(TicketNumber number, Viewer helper) {
        boolean wanted = tickets.find(number, helper)
                .flatMap(ticket -> ticket.work().help(1))
                .filter(Help::open)
                .isPresent();
        if (wanted) {
            acts.perform(
                    number,
                    new Act.EndHelp(
                            1, "It shows the same as to us. The old entry was still there; it is gone now.", false),
                    helper);
        }
    }

    /** A colleague is asked quickly; nothing when nobody is. */
    Optional<Viewer> question(TicketNumber number, Viewer agent) {
        Viewer asked = people.named(Telling.pick(List.of("Sefa Tui", "Marta Kowal", "Jonas Weir"), random));
        if (random.nextInt(8) > 0 || asked.id().equals(agent.id())) {
            return Optional.empty();
        }
        acts.perform(
                number,
                new Act.AskBeside(Optional.of(asked.id()), Optional.empty(), Telling.pick(QUESTIONS, random)),
                agent);
        return Optional.of(asked);
    }

    /** What they say to it. */
    void answerQuestion(TicketNumber number, Viewer asked) {
        boolean open = tickets.find(number, asked)
                .flatMap(ticket -> ticket.work().talk(1))
                .filter(Talk::open)
                .isPresent();
        if (open) {
            acts.perform(number, new Act.AnswerBeside(1, Telling.pick(REPLIES, random)), asked);
        }
    }

    /** A ticket that waits for a partner comes back when they answer, with what is to be done then. */
    void waits(TicketNumber number, Viewer agent) {
        if (random.nextInt(3) == 0) {
            acts.perform(
                    number,
                    new Act.WaitFor(
                            Set.of(Await.Happening.PARTNER), "Tell the customer which ramp, and change the booking."),
                    agent);
        }
    }

    /** Somebody asked two things in one ticket; the second becomes a ticket of its own. */
    void splitOne(Viewer agent) {
        var second = Tables.MESSAGE;
        sql.select(second.ID, second.TICKET)
                .from(second)
                .join(Tables.TICKET)
                .on(Tables.TICKET.NUMBER.eq(second.TICKET))
                .where(second.KIND.eq("CUSTOMER"))
                .and(second.SEQ.gt(2))
                .and(Tables.TICKET.OPEN)
                .orderBy(second.TICKET.desc(), second.SEQ)
                .limit(1)
                .forEach(row ->
                        acts.perform(row.value2(), new Act.Split(row.value1(), "Another question of theirs"), agent));
    }

    /** Firms and schools are met on the quay before they sail. */
    void meet(TicketNumber number, Viewer agent, Instant at) {
        hours.nextOpen(at.plus(Duration.ofDays(1 + random.nextInt(4))))
                .ifPresent(open -> acts.perform(
                        number,
                        new Act.SetMeeting(
                                OptionalInt.empty(),
                                new Meeting.Plan(
                                        "Walk through the loading",
                                        open.plus(Duration.ofHours(2)),
                                        Duration.ofMinutes(45),
                                        "Quay 2, Aldermouth",
                                        List.of())),
                        agent));
    }

    /** Customers are asked, and some say how they were helped. */
    void rate(TicketNumber number, Instant at) {
        requests.ask(at, 500);
        if (random.nextInt(100) > 55) {
            return;
        }
        sql
                .select(Tables.MESSAGE.TEXT)
                .from(Tables.MESSAGE)
                .where(Tables.MESSAGE.TICKET.eq(number))
                .and(Tables.MESSAGE.KIND.eq("AUTOMATIC"))
                .fetch(Tables.MESSAGE.TEXT)
                .stream()
                .map(LINK::matcher)
                .filter(Matcher::find)
                .map(found -> found.group(1))
                .findFirst()
                .ifPresent(token -> {
                    int luck = random.nextInt(10);
                    Work.Rating rating = luck < 7 ? Work.Rating.GOOD : luck < 9 ? Work.Rating.FAIR : Work.Rating.POOR;
                    ratings.rate(token, rating, Telling.pick(COMMENTS, random));
                });
    }
}
