package rafter.app.handout.consults;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.platform.Whens;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.acts.Tickets;
import rafter.core.consult.Cover;
import rafter.core.consult.Who;
import rafter.core.id.SkillId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;

/** A room as its pages show it: what it is about, who is there, what was said; of the ticket only what a guest from outside may see, too. */
@Component
class Rooms {

    private static final int MOST_ENTRIES = 30;
    /** What was said between the customer and us; nothing that is among ourselves. */
    private static final List<String> SEEN =
            List.of(NewMessage.Kind.CUSTOMER.name(), NewMessage.Kind.PUBLIC.name(), NewMessage.Kind.PUBLIC_NOTE.name());

    /** A file of the ticket. */
    public record TicketFile(long id, String name, String size) {}

    /** Something that was said between the customer and us. */
    public record Said(String who, String when, String text) {}

    /** Somebody who was asked. */
    public record Person(
            long id, String name, boolean outside, Guests.State state, String why, String reason, boolean optional) {}

    /** A line. */
    public record Shown(
            long id, String when, Lines.Kind kind, String who, String text, boolean mine, List<Lines.LineFile> files) {}

    /**
     * What changes while one looks.
     *
     * @param missing what nobody knows who is there or asked, with who knows it and when they can
     */
    public record Live(
            Consults.Consult consult,
            List<Person> people,
            List<Shown> lines,
            List<Shown> steps,
            List<String> missing,
            Optional<Guests.Guest> me) {}

    /** What it is about. */
    public record About(
            TicketNumber number,
            String subject,
            Map<String, String> facts,
            List<String> skills,
            List<Said> said,
            List<TicketFile> files) {}

    private final DSLContext sql;
    private final Consults consults;
    private final Guests guests;
    private final Lines lines;
    private final Candidates candidates;
    private final Tickets tickets;
    private final Files files;
    private final Whens whens;

    Rooms(
            DSLContext sql,
            Consults consults,
            Guests guests,
            Lines lines,
            Candidates candidates,
            Tickets tickets,
            Files files,
            Whens whens) {
        this.sql = sql;
        this.consults = consults;
        this.guests = guests;
        this.lines = lines;
        this.candidates = candidates;
        this.tickets = tickets;
        this.files = files;
        this.whens = whens;
    }

    /** What changes in a room while somebody looks. */
    @Transactional(readOnly = true)
    public Live live(long id, Optional<Who> looking) {
        Consults.Consult consult = consults.find(id).orElseThrow(() -> new Problem.NotFound("There is no such room."));
        List<Guests.Guest> all = guests.of(id);
        Optional<Guests.Guest> me = all.stream()
                .filter(one -> looking.equals(Optional.of(one.who())))
                .findFirst();
        List<Shown> shown =
                lines.of(id).stream().map(line -> shown(line, looking, me)).toList();
        return new Live(
                consult,
                all.stream().map(Rooms::person).toList(),
                shown,
                shown.stream().filter(one -> one.kind() == Lines.Kind.STEP).toList(),
                consult.open() ? missing(consult) : List.of(),
                me);
    }

    private static Person person(Guests.Guest one) {
        return new Person(
                one.id(),
                one.name(),
                one.who() instanceof Who.Outside,
                one.state(),
                one.why(),
                one.reason(),
                one.optional());
    }

    private Shown shown(Lines.Line line, Optional<Who> looking, Optional<Guests.Guest> me) {
        Optional<Who> who = line.speaker().person().map(Who.Colleague::new);
        boolean mine = (who.isPresent() && who.equals(looking))
                || (line.speaker().guest().isPresent() && line.speaker().guest().equals(me.map(Guests.Guest::id)));
        return new Shown(
                line.id(), whens.say(line.at()), line.kind(), line.speaker().name(), line.text(), mine, line.files());
    }

    private List<String> missing(Consults.Consult consult) {
        List<Cover.Missing> missing = consults.next(consult).missing();
        return missing.isEmpty() ? List.of() : words(missing, candidates.names());
    }

    /** What nobody knows who can come, in words. */
    List<String> words(List<Cover.Missing> missing, Map<SkillId, String> names) {
        return missing.stream()
                .map(one -> names.getOrDefault(one.skill(), "A skill that was removed") + ": "
                        + (one.others().isEmpty()
                                ? "nobody knows it."
                                : one.others().stream()
                                        .limit(3)
                                        .map(other -> other.name() + " " + candidates.whyNot(other))
                                        .collect(Collectors.joining("; "))))
                .toList();
    }

    /** What a room is about. */
    @Transactional(readOnly = true)
    public About about(Consults.Consult consult) {
        TicketNumber number = consult.ticket();
        Ticket ticket = Optional.ofNullable(tickets.find(List.of(number)).get(number))
                .orElseThrow(() -> new Problem.NotFound("There is no ticket " + number + "."));
        Map<SkillId, String> names = candidates.names();
        return new About(
                number,
                ticket.subject(),
                facts(number, ticket),
                consult.skills().stream()
                        .map(skill -> names.getOrDefault(skill, "a skill that was removed"))
                        .toList(),
                said(number),
                ticketFiles(number));
    }

    private Map<String, String> facts(TicketNumber number, Ticket ticket) {
        var facts = new LinkedHashMap<String, String>();
        sql.select(CONTACT.NAME, COMPANY.NAME, TICKET.NEXT_DUE)
                .from(TICKET)
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(TICKET.NUMBER.eq(number))
                .fetchOptional()
                .ifPresent(r -> {
                    facts.put("Customer", r.value1());
                    facts.put("Company", Say.orBlank(r.value2()));
                    facts.put(
                            "Due",
                            Optional.ofNullable(r.value3()).map(whens::say).orElse(""));
                });
        facts.put("State", ticket.state().name());
        facts.put("Priority", ticket.priority() + " " + ticket.priority().word());
        facts.put("Topic", ticket.topic());
        facts.values().removeIf(String::isBlank);
        return facts;
    }

    private List<Said> said(TicketNumber number) {
        return new ArrayList<>(sql.selectFrom(MESSAGE)
                        .where(MESSAGE.TICKET.eq(number))
                        .and(MESSAGE.KIND.in(SEEN))
                        .and(MESSAGE.TAKEN_BACK.isNull())
                        .and(MESSAGE.SPLIT_INTO.isNull())
                        .orderBy(MESSAGE.SEQ.desc())
                        .limit(MOST_ENTRIES)
                        .fetch(m -> new Said(
                                m.getAuthor(), whens.say(m.getAt()), m.getText().strip())))
                .reversed();
    }

    private List<TicketFile> ticketFiles(TicketNumber number) {
        return sql.select(ATTACHMENT.ID, ATTACHMENT.NAME, ATTACHMENT.SIZE)
                .from(ATTACHMENT)
                .join(MESSAGE)
                .on(MESSAGE.ID.eq(ATTACHMENT.MESSAGE_ID))
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.in(SEEN))
                .and(MESSAGE.TAKEN_BACK.isNull())
                .and(MESSAGE.SPLIT_INTO.isNull())
                .and(ATTACHMENT.CONTENT_ID.eq(""))
                .orderBy(ATTACHMENT.ID)
                .fetch(r -> new TicketFile(r.value1(), r.value2(), Say.size(r.value3())));
    }

    /** A file of the ticket that is shown in its room. */
    @Transactional(readOnly = true)
    public Lines.Content ticketFile(Consults.Consult consult, long file) {
        return ticketFiles(consult.ticket()).stream()
                .filter(one -> one.id() == file)
                .findFirst()
                .map(one -> new Lines.Content(
                        one.name(),
                        files.read(sql.select(ATTACHMENT.SHA256)
                                .from(ATTACHMENT)
                                .where(ATTACHMENT.ID.eq(file))
                                .fetchSingle(ATTACHMENT.SHA256))))
                .orElseThrow(() -> new Problem.NotFound("There is no such file."));
    }
}
