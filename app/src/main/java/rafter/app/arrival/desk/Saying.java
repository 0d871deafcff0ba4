package rafter.app.arrival.desk;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.arrival.chat.ChatLines;
import rafter.app.arrival.chat.ChatSite;
import rafter.app.arrival.chat.Chats;
import rafter.app.arrival.chat.Endings;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.NotesBeside;
import rafter.app.tickets.writing.Answering;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Way;

/** What somebody of ours does at the desk; each line once, however often it is sent. */
@Component
class Saying {

    private static final String KEPT = " Nothing was done; your note is still here.";
    private static final int LONGEST_NOTE = 2000;

    private final Chats chats;
    private final ChatLines chatLines;
    private final Answering answering;
    private final Endings endings;
    private final NotesBeside tickets;
    private final Acts acts;
    private final LiveNews news;

    Saying(
            Chats chats,
            ChatLines chatLines,
            Answering answering,
            Endings endings,
            NotesBeside tickets,
            Acts acts,
            LiveNews news) {
        this.chats = chats;
        this.chatLines = chatLines;
        this.answering = answering;
        this.endings = endings;
        this.tickets = tickets;
        this.acts = acts;
        this.news = news;
    }

    /** Something in braces has no value, or nobody knows it; nothing was said. */
    static final class Gaps extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Gaps(String words) {
            super(words);
        }

        String words() {
            return String.valueOf(getMessage());
        }
    }

    private Chats.Chat chat(TicketNumber number) {
        return chats.of(number).orElseThrow(() -> new Problem.NotFound("Ticket " + number + " has no chat."));
    }

    /**
     * Says something, with the files of the draft. It goes into the chat even where the ticket is answered otherwise by now.
     *
     * @param key made by the page; the same is said once
     * @param asItIs whether it goes out even though something in braces stands in it
     * @throws Problem.Invalid when there are no words; it is still in the draft
     * @throws Gaps when something in braces has no value
     */
    @Transactional
    void say(TicketNumber number, String text, String key, boolean asItIs, Viewer me) {
        Access.require(me, Right.WORK);
        tickets.hold(number, me);
        Chats.Chat chat = chat(number);
        if (!key.matches("[A-Za-z0-9-]{16,64}")) {
            throw new Problem.Invalid("The page sent no key with it. Load it again; what you wrote is in the draft.");
        }
        if (chatLines.said(chat.id(), key)) {
            return;
        }
        if (!tickets.hold(number).way().channel().equals(ChatSite.CHANNEL)) {
            var way = new Way(ChatSite.CHANNEL, OptionalLong.of(chat.site()));
            acts.perform(number, new Act.AnswerBy(way), me);
        }
        var answer = new Answering.Answer(
                SafeHtml.fromText(text), "", Optional.of(""), "", Turn.CUSTOMER, Integer.MAX_VALUE, asItIs);
        switch (answering.answer(number, answer, me)) {
            case Answering.Outcome.Sent sent -> chatLines.key(chat.id(), sent.message(), key);
            case Answering.Outcome.Crossed crossed -> throw new Problem.Stale(crossed.words());
            case Answering.Outcome.Gaps gaps -> throw new Gaps(gaps.words());
        }
    }

    /** We have seen what was said up to a line. */
    void read(TicketNumber number, int seq, Viewer me) {
        Access.require(me, Right.WORK);
        if (chats.ourRead(number, seq)) {
            news.talk(number);
        }
    }

    /**
     * Hands a chat over, with a note for whoever gets it; the customer stays where they are.
     *
     * @throws Problem.Invalid when nobody is named
     */
    @Transactional
    void handOver(TicketNumber number, Optional<PersonId> person, Optional<TeamId> team, String note, Viewer me) {
        Access.require(me, Right.WORK);
        if (person.isEmpty() && team.isEmpty()) {
            throw new Problem.Invalid("Choose a colleague or a team." + KEPT);
        }
        if (note.length() > LONGEST_NOTE) {
            throw new Problem.Invalid("A note has at most 2,000 letters." + KEPT);
        }
        var all = new ArrayList<Act>();
        if (!note.isBlank()) {
            all.add(new Act.Note(note.strip()));
        }
        all.add(person.isPresent() ? new Act.HandToPerson(person) : new Act.HandOver(team.orElseThrow()));
        acts.performAll(number, List.copyOf(all), me);
        news.talk(number);
    }

    /**
     * Ends a chat.
     *
     * @param resolved whether its ticket is resolved with it; then it must have what a resolved one needs
     */
    @Transactional
    void end(TicketNumber number, boolean resolved, Viewer me) {
        Access.require(me, Right.WORK);
        Ticket ticket = tickets.hold(number, me);
        if (resolved && ticket.open()) {
            acts.perform(number, new Act.MoveTo(TicketState.RESOLVED.key()), me);
        }
        endings.end(chat(number), Chats.EndedBy.US, me.name());
    }
}
