package rafter.outside.demo;

import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.MimeMessage;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.PriorityQueue;
import java.util.Properties;
import java.util.Random;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.context.ApplicationContext;
import rafter.app.arrival.intake.MailboxWatch;
import rafter.app.arrival.intake.Processor;
import rafter.app.arrival.mail.Mailbox;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.arrival.mail.Outbox;
import rafter.app.arrival.mail.ReplyMark;
import rafter.app.arrival.mail.SendMail;
import rafter.app.house.access.Viewer;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Workspaces;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.clocks.StepFiring;
import rafter.app.tickets.outside.Outside;
import rafter.app.tickets.rules.RuleDesk;
import rafter.app.tickets.writing.Answering;
import rafter.app.tickets.writing.Drafts;
import rafter.app.tickets.writing.Notes;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Work;
import rafter.core.time.WorkingTime;
import rafter.database.Tables;
import rafter.outside.Letter;

/**
 * Ninety days of believable history, told in the order of time: customers send real mail, agents act through the
 * application's services, and its clock follows. From a fixed seed, relative to now; what lies beyond now does not happen.
 */
final class History {

    static final Duration LENGTH = Duration.ofDays(90);

    private static final int TICKETS = 400;
    private static final int OFFERS = 30;
    private static final long SEED = 20_418;
    private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");
    /** What is promised to most customers, from P1 to P4. */
    private static final List<Integer> FIRST_REPLY_MINUTES = List.of(60, 120, 240, 480);

    private static final List<Integer> NEXT_REPLY_MINUTES = List.of(60, 180, 360, 720);
    /** So many weeks ago half the team was ill. */
    private static final int BAD_WEEK = 5;

    private static final String HARBOUR = "office@aldermouthharbour.example";
    private static final Duration LATELY = Duration.ofHours(26);
    private static final List<String> AGENTS = List.of(
            "Imani Okoro", "Imani Okoro", "Imani Okoro", "Jonas Weir", "Priya Raman", "Sefa Tui", "Marta Kowal");

    /** One thing to come. */
    private record Moment(Instant at, long order, Step step) {}

    private interface Step {
        void happen(Instant at) throws MessagingException;
    }

    /** A ticket while its story is told. */
    private final class Course {
        private final Telling telling;
        private final Viewer agent;
        private TicketNumber number = new TicketNumber(0);
        private int asked;
        private int answered;
        /** Others take their time: it still waits for them. */
        private boolean lingers;
        /** How much of the promised time we take for an answer, in percent. */
        private int pace;

        Course(Telling telling) {
            this.telling = telling;
            this.agent = people.named(
                    telling.story().firms() && random.nextInt(3) > 0 ? "Jonas Weir" : Telling.pick(AGENTS, random));
        }

        void ask(Instant at) throws MessagingException {
            number = send(this, at);
            asked++;
            lingers = at.isAfter(now.minus(Duration.ofDays(12))) && random.nextInt(6) < 5;
            pace = pace(at);
            then(working(at, Math.max(4, promised(FIRST_REPLY_MINUTES) * pace * 6 / 1000)), this::triage);
        }

        /** A decent team: most answers come well within their time, some do not, and in one week half of them do not. */
        private int pace(Instant at) {
            boolean badWeek = Duration.between(at, now).toDays() / 7 == BAD_WEEK;
            if (at.isAfter(now.minus(LATELY))) {
                // Work of the last day that is not done yet, most of it still in time.
                return random.nextInt(8) == 0 ? 150 : 70 + random.nextInt(29);
            }
            int luck = random.nextInt(100);
            if (luck < (badWeek ? 45 : 6)) {
                return 110 + random.nextInt(160);
            }
            return luck < (badWeek ? 70 : 16) ? 80 + random.nextInt(19) : 10 + random.nextInt(65);
        }

        private int promised(List<Integer> minutes) {
            return minutes.get(Priority.valueOf(telling.story().priority()).ordinal());
        }

        void triage(Instant at) {
            acts.perform(
                    number, new Act.SetPriority(Priority.valueOf(telling.story().priority())), agent);
            acts.perform(number, new Act.SetTopic(telling.story().topic()), agent);
            acts.perform(number, new Act.SetTags(new HashSet<>(telling.story().tags())), agent);
            people.fields()
                    .of(telling, random)
                    .forEach((key, value) -> acts.perform(number, new Act.Fill(key, value), agent));
            acts.perform(number, new Act.HandToPerson(Optional.of(agent.id())), agent);
            if (telling.story().firms() && at.isAfter(now.minus(Duration.ofDays(9))) && random.nextInt(4) == 0) {
                hours.nextOpen(at.plus(Duration.ofDays(2 + random.nextInt(5))))
                        .map(open -> open.plus(Duration.ofHours(3)))
                        .ifPresent(due -> acts.perform(
                                number, new Act.AgreeTime(Optional.of(due), "the trailer leaves no earlier"), agent));
            }
            if (!telling.story().note().isEmpty()) {
                notes.note(number, "<p>" + telling.story().note() + "</p>", agent);
            }
            plan(at);
            others.ask(number, agent, at)
                    .ifPresent(helper ->
                            then(working(at, 60 + random.nextInt(400)), when -> others.handBack(number, helper)));
            others.question(number, agent)
                    .filter(asked -> random.nextInt(4) > 0)
                    .ifPresent(asked ->
                            then(working(at, 20 + random.nextInt(300)), when -> others.answerQuestion(number, asked)));
            if (random.nextInt(12) == 0) {
                notes.note(
                        number, "<p>We have seen your message and are looking into it with the crew.</p>", true, agent);
            }
            if (telling.story().firms() && at.isAfter(now.minus(Duration.ofDays(6))) && random.nextInt(4) == 0) {
                others.meet(number, agent, at);
            }
            then(working(at, Math.max(3, promised(FIRST_REPLY_MINUTES) * pace * 3 / 1000)), this::answer);
        }

        void answer(Instant at) throws MessagingException {
            boolean last = answered >= telling.story().answers().size() - 1;
            boolean more = asked < telling.story().asks().size();
            boolean partner = telling.story().partner() && answered == 0 && !last;
            Turn then = partner ? Turn.PARTNER : more ? Turn.CUSTOMER : Turn.NOBODY;
            String text = telling.fill(telling.story()
                    .answers()
                    .get(Math.min(answered, telling.story().answers().size() - 1)));
            int seen = tickets.find(number, agent).map(t -> t.lastPublicSeq()).orElse(0);
            String html = SafeHtml.fromText(
                    text + "\n\nKind regards\n" + agent.person().firstName());
            answering.answer(number, new Answering.Answer(html, "", then, seen), agent);
            answered++;
            spend(at);
            others.call(number, agent, at, telling.story().firms());
            if (then == Turn.NOBODY) {
                conclude();
            }
            post();
            if (partner) {
                askOutside();
                others.waits(number, agent);
                then(working(at, lingers ? 2000 : 120 + random.nextInt(700)), this::partnerAnswered);
            } else if (more) {
                if (random.nextInt(3) == 0) {
                    hours.nextOpen(at.plus(Duration.ofDays(1 + random.nextInt(4))))
                            .ifPresent(back -> acts.perform(number, new Act.BringBack(Optional.of(back)), agent));
                }
                then(at.plus(Duration.ofMinutes(20 + random.nextInt(lingers ? 9000 : 3000))), this::askAgain);
            }
        }

        /** Asks the harbour office, unseen by the customer, and has them reminded. */
        private void askOutside() {
            String text =
                    "Hello,\n\nwe need your word on ticket {ticket}, “{subject}”. Can you look into it today?\n\n{agent}";
            outside.write(
                    number,
                    new Outside.Letter(
                            Optional.empty(),
                            HARBOUR,
                            telling.subject(),
                            SafeHtml.fromText(text),
                            List.of(),
                            true,
                            Optional.of(Duration.ofHours(9)),
                            2),
                    agent);
        }

        void partnerAnswered(Instant at) throws MessagingException {
            outsideAnswers(this, at);
            if (tickets.find(number, agent).map(t -> t.turn() == Turn.PARTNER).orElse(false)) {
                acts.perform(number, new Act.MoveTo(TicketState.IN_HAND.key()), agent);
            }
            then(working(at, 10 + random.nextInt(90)), this::answer);
        }

        void askAgain(Instant at) throws MessagingException {
            if (random.nextInt(6) == 0) {
                then(working(at, 400 + random.nextInt(900)), this::resolve);
                return;
            }
            send(this, at);
            asked++;
            boolean further = answered < telling.story().answers().size();
            then(
                    working(at, Math.max(5, promised(NEXT_REPLY_MINUTES) * pace(at) / (further ? 100 : 400))),
                    further ? this::answer : this::resolve);
        }

        void resolve(Instant at) {
            acts.perform(number, new Act.MoveTo(TicketState.RESOLVED.key()), agent);
            conclude();
        }

        private void conclude() {
            then(clock.instant().plus(Duration.ofHours(25 + random.nextInt(60))), at -> others.rate(number, at));
            Ending ending = Ending.of(telling.story().topic());
            if (!ending.cause().isEmpty() && random.nextInt(4) > 0) {
                acts.perform(
                        number,
                        new Act.Conclude(new Work.Resolution(ending.was(), ending.done(), ending.cause())),
                        agent);
            }
        }

        /** An answer takes its time, which most write down. */
        private void spend(Instant at) {
            if (random.nextInt(5) > 0) {
                var time = Duration.ofMinutes(3 + random.nextInt(20));
                var spent = new Work.Spent(
                        agent.id(),
                        at.minus(time),
                        time,
                        "writing",
                        telling.story().firms(),
                        "");
                acts.perform(number, new Act.SpendTime(OptionalInt.empty(), spent), agent);
            }
        }

        private void plan(Instant at) {
            List<String> tasks = Ending.of(telling.story().topic()).tasks();
            if (tasks.isEmpty()) {
                return;
            }
            for (String what : tasks) {
                Optional<PersonId> who = random.nextInt(3) == 0
                        ? Optional.of(people.named(Telling.pick(AGENTS, random)).id())
                        : Optional.empty();
                acts.perform(
                        number,
                        new Act.SetTask(OptionalInt.empty(), what, who, hours.nextOpen(at.plus(Duration.ofDays(2)))),
                        agent);
            }
            acts.perform(number, new Act.TickTask(1, true), agent);
            if (random.nextInt(3) == 0) {
                acts.perform(number, new Act.Watch(people.named("Odile Bran").id(), true), agent);
            }
        }
    }

    private final DemoClock clock;
    private final DemoPeople people;
    private final Instant now;
    private final int smtp;
    private final Random random = new Random(SEED);
    private final PriorityQueue<Moment> ahead =
            new PriorityQueue<>(Comparator.comparing(Moment::at).thenComparingLong(Moment::order));
    private final DemoOthers others;
    private final DemoMails mails;
    private final Tickets tickets;
    private final RuleDesk rules;
    private Instant rulesReadAt = Instant.EPOCH;
    private final Acts acts;
    private final TicketTimes times;
    private final Answering answering;
    private final Notes notes;
    private final Outside outside;
    private final Drafts drafts;
    private final Outbox outbox;
    private final SendMail sendMail;
    private final Mailboxes mailboxes;
    private final MailboxWatch watch;
    private final Processor processor;
    private final StepFiring steps;
    private final DSLContext sql;
    private final WorkingTime hours;
    private final byte[] secret;
    private long order;

    History(ApplicationContext context, DemoClock clock, DemoPeople people, DemoMails mails, int smtp, Instant now) {
        this.mails = mails;
        this.clock = clock;
        this.people = people;
        this.now = now;
        this.smtp = smtp;
        this.others = new DemoOthers(context, people, new Random(SEED + 1));
        this.tickets = context.getBean(Tickets.class);
        this.answering = context.getBean(Answering.class);
        this.notes = context.getBean(Notes.class);
        this.outside = context.getBean(Outside.class);
        this.acts = context.getBean(Acts.class);
        this.rules = context.getBean(RuleDesk.class);
        this.times = context.getBean(TicketTimes.class);
        this.drafts = context.getBean(Drafts.class);
        this.outbox = context.getBean(Outbox.class);
        this.sendMail = context.getBean(SendMail.class);
        this.mailboxes = context.getBean(Mailboxes.class);
        this.watch = context.getBean(MailboxWatch.class);
        this.processor = context.getBean(Processor.class);
        this.steps = context.getBean(StepFiring.class);
        this.sql = context.getBean(DSLContext.class);
        this.hours = context.getBean(Targets.class).terms().hours();
        this.secret = context.getBean(Workspaces.class).current().secret();
    }

    /** What arrived is read for at once, the rest every half hour; nobody is there in between. */
    private void readRules(Instant at) {
        if (at.isAfter(rulesReadAt.plus(Duration.ofMinutes(30)))) {
            rules.readAll();
            rulesReadAt = at;
        }
    }

    void live() throws MessagingException {
        arrivals().forEach(at -> then(at, this::begin));
        var offers = new Offers(new Random(SEED + 7));
        var days = new Random(SEED + 8);
        for (int i = 0; i < OFFERS; i++) {
            then(now.minusSeconds(days.nextLong(LENGTH.toSeconds())), at -> offered(offers, at));
        }
        int closedOn = -1;
        while (!ahead.isEmpty() && !ahead.element().at().isAfter(now)) {
            Moment next = ahead.remove();
            fireStepsUntil(next.at());
            bringBackUntil(next.at());
            clock.set(next.at());
            next.step().happen(next.at());
            readRules(next.at());
            int day = next.at().atZone(ZONE).getDayOfYear();
            if (day != closedOn) {
                tickets.closeOver(next.at(), 1000);
                closedOn = day;
            }
        }
        fireStepsUntil(now);
        bringBackUntil(now);
        clock.set(now);
        leaveDrafts();
        others.splitOne(people.named("Sefa Tui"));
        mails.learn();
        for (int i = 0; i < 3; i++) {
            deliver(offers.next(mailboxes.all().getFirst().address(), now).mime());
        }
        watch.fetchOnce(mailboxes.all().getFirst());
        processor.processAll();
        post();
        readNotices();
        sql.deleteFrom(DSL.table("scheduled_tasks")).execute();
    }

    /** Each ticket that comes back at its own instant. */
    private void bringBackUntil(Instant until) {
        for (Optional<Instant> next = nextBack();
                next.filter(at -> !at.isAfter(until)).isPresent();
                next = nextBack()) {
            clock.set(next.get());
            times.broughtBack(next.get(), 50);
        }
    }

    private Optional<Instant> nextBack() {
        return Optional.ofNullable(sql.select(DSL.min(Tables.TICKET.BRING_BACK_AT))
                .from(Tables.TICKET)
                .fetchSingle(DSL.min(Tables.TICKET.BRING_BACK_AT)));
    }

    /** Each step of a target at its own instant. */
    private void fireStepsUntil(Instant until) {
        for (Optional<Instant> due = steps.nextDue();
                due.filter(at -> !at.isAfter(until)).isPresent();
                due = steps.nextDue()) {
            clock.set(due.get());
            steps.fireDue(50);
        }
        post();
    }

    /** More by day than by night, fewer on weekends, and a good number within the last working hours. */
    private List<Instant> arrivals() {
        var all = new ArrayList<Instant>();
        while (all.size() < TICKETS - 54) {
            Instant at = now.minusSeconds(random.nextLong(LENGTH.toSeconds()));
            ZonedDateTime local = at.atZone(ZONE);
            boolean day = local.getHour() >= 7 && local.getHour() < 20;
            boolean weekend = local.getDayOfWeek().getValue() > 5;
            if (random.nextInt(100) < (day ? weekend ? 35 : 90 : 12)) {
                all.add(at);
            }
        }
        for (int i = 0; i < 36; i++) {
            all.add(now.minusSeconds(60L * random.nextInt(60 * 100)));
        }
        for (int i = 0; i < 18; i++) {
            all.add(now.minusSeconds(60L * random.nextInt(60 * 7)));
        }
        return all;
    }

    /** Mail that nobody asked for; somebody says so, and it teaches what junk looks like. */
    private void offered(Offers offers, Instant at) throws MessagingException {
        Mailbox mailbox = mailboxes.all().getFirst();
        TicketNumber number = arrives(offers.next(mailbox.address(), at), mailbox);
        then(working(at, 45), when -> acts.perform(number, new Act.NoRequest(false), people.named("Sefa Tui")));
    }

    private void begin(Instant at) throws MessagingException {
        Story story = Telling.pick(Stories.ALL, random);
        List<Cast.Someone> able = Cast.PEOPLE.stream()
                .filter(p -> p.firm().isEmpty() != story.firms())
                .toList();
        new Course(Telling.begin(story, Telling.pick(able, random), random, at)).ask(at);
    }

    private void then(Instant at, Step step) {
        ahead.add(new Moment(at, order++, step));
    }

    private Instant working(Instant from, int minutes) {
        return hours.add(from, Duration.ofMinutes(minutes)).orElse(from.plus(Duration.ofMinutes(minutes)));
    }

    /** Sends the customer's next message as real mail and lets Rafter take it in. */
    private TicketNumber send(Course course, Instant at) throws MessagingException {
        Telling told = course.telling;
        boolean first = course.number.none();
        String text = told.fill(told.story().asks().get(course.asked));
        Optional<OurMail> answered = first ? Optional.empty() : lastOfOurs(course.number);
        String quoted = answered.map(mail -> "\n\nOn " + at.atZone(ZONE).toLocalDate() + ", " + Cast.LINE + " wrote:\n"
                        + mail.text().lines().map(line -> "> " + line).reduce("", (a, b) -> a + b + "\n"))
                .orElse("");
        Mailbox mailbox = mailbox(told.story().mailbox());
        String to = answered.isPresent() ? ReplyMark.address(mailbox, course.number, secret) : mailbox.address();
        List<Letter.Enclosure> files = text.contains("attached")
                ? List.of(new Letter.Enclosure(
                        "receipt.txt", "text/plain", "Taxi, 62.00, paid".getBytes(StandardCharsets.UTF_8)))
                : List.of();
        var letter = new Letter(
                told.who().name(),
                told.who().address(),
                to,
                "",
                (first ? "" : "Re: ") + told.subject(),
                text + quoted,
                answered.map(OurMail::messageId),
                answered.map(mail -> List.of(mail.messageId())).orElse(List.of()),
                files,
                at);
        return arrives(letter, mailbox);
    }

    private TicketNumber arrives(Letter letter, Mailbox mailbox) throws MessagingException {
        deliver(letter.mime());
        watch.fetchOnce(mailbox);
        processor.processAll();
        rules.readAll();
        post();
        return sql.select(Tables.INBOUND.TICKET)
                .from(Tables.INBOUND)
                .orderBy(Tables.INBOUND.ID.desc())
                .limit(1)
                .fetchSingle(Tables.INBOUND.TICKET);
    }

    /** The harbour office answers what it was asked. */
    private void outsideAnswers(Course course, Instant at) throws MessagingException {
        Optional<OurMail> asked = sql.select(Tables.MESSAGE.MESSAGE_ID, Tables.MESSAGE.TEXT)
                .from(Tables.MESSAGE)
                .where(Tables.MESSAGE.TICKET.eq(course.number))
                .and(Tables.MESSAGE.KIND.eq("OUTSIDE_OUT"))
                .orderBy(Tables.MESSAGE.SEQ.desc())
                .limit(1)
                .fetchOptional(r -> new OurMail(r.value1(), r.value2()));
        if (asked.isEmpty()) {
            return;
        }
        Mailbox mailbox = mailbox(course.telling.story().mailbox());
        var letter = new Letter(
                "Harbour office, Aldermouth",
                HARBOUR,
                ReplyMark.address(mailbox, course.number, secret),
                "",
                "Re: " + course.telling.subject(),
                "Hello,\n\nit is in order from our side. You can tell them.\n\nHarbour office",
                asked.map(OurMail::messageId),
                List.of(asked.get().messageId()),
                List.of(),
                at);
        deliver(letter.mime());
        watch.fetchOnce(mailbox);
        processor.processAll();
        post();
    }

    private void deliver(MimeMessage mail) throws MessagingException {
        var properties = new Properties();
        properties.put("mail.smtp.host", "127.0.0.1");
        properties.put("mail.smtp.port", Integer.toString(smtp));
        try (Transport transport = Session.getInstance(properties).getTransport("smtp")) {
            transport.connect();
            transport.sendMessage(mail, mail.getAllRecipients());
        }
    }

    private Mailbox mailbox(String address) {
        return mailboxes.all().stream()
                .filter(m -> m.address().equals(address))
                .findFirst()
                .orElseThrow();
    }

    private record OurMail(String messageId, String text) {}

    private Optional<OurMail> lastOfOurs(TicketNumber ticket) {
        return sql.select(Tables.MESSAGE.MESSAGE_ID, Tables.MESSAGE.TEXT)
                .from(Tables.MESSAGE)
                .where(Tables.MESSAGE.TICKET.eq(ticket))
                .and(Tables.MESSAGE.KIND.eq("PUBLIC"))
                .orderBy(Tables.MESSAGE.SEQ.desc())
                .limit(1)
                .fetchOptional(r -> new OurMail(r.value1(), r.value2()));
    }

    /** Hands all mail that waits to the server, as the scheduler would. */
    private void post() {
        outbox.queued().forEach(sendMail::send);
    }

    /** People look at their notices within some hours; the latest are still to be read. */
    private void readNotices() {
        sql.update(Tables.NOTICE)
                .set(
                        Tables.NOTICE.READ_AT,
                        DSL.field("{0} + interval '47 minutes'", Tables.NOTICE.READ_AT.getDataType(), Tables.NOTICE.AT))
                .where(Tables.NOTICE.READ_AT.isNull())
                .and(Tables.NOTICE.AT.lt(now.minus(Duration.ofHours(5))))
                .execute();
    }

    /** A few replies that were begun and not sent. */
    private void leaveDrafts() {
        Set<String> writers = Set.of("Imani Okoro", "Sefa Tui");
        for (String writer : writers) {
            Viewer person = people.named(writer);
            sql.select(Tables.TICKET.NUMBER)
                    .from(Tables.TICKET)
                    .where(Tables.TICKET.OWNER_ID.eq(person.id()))
                    .and(Tables.TICKET.TURN.eq("OURS"))
                    .orderBy(Tables.TICKET.NEXT_DUE)
                    .limit(2)
                    .fetch(Tables.TICKET.NUMBER)
                    .forEach(number -> drafts.save(
                            number,
                            Drafts.Kind.REPLY,
                            "<p>Hello,</p><p>I have looked into it and</p>",
                            "",
                            Turn.CUSTOMER,
                            0,
                            person));
        }
    }
}
