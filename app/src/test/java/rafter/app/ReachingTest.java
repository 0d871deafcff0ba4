package rafter.app;

import static java.util.Map.entry;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/**
 * What is asked of tickets for a person is asked among those that the person may see: from {@code viewer.tickets()}, and of what hangs on
 * tickets with {@code viewer.sees(...)}. Only what Rafter does by itself may ask the tables, and only the classes named here.
 */
class ReachingTest {

    /** The table itself, neither one of its columns nor a column of another table that is called so. */
    private static final Pattern BARE = Pattern.compile("(?<![.\\w])TICKET(?![.\\w])");

    private static final Pattern COMMENTS =
            Pattern.compile("/\\*.*?\\*/|//[^\\n]*|^import [^\\n]*", Pattern.DOTALL | Pattern.MULTILINE);
    private static final Pattern HANGING = Pattern.compile(
            "(?:from|join|selectFrom|fetchExists|fetchCount|Awaiting\\.count)\\(\\s*(?:TICKET_EVENT|TICKET_CLOCK|MESSAGE|ATTACHMENT|NOTICE|DRAFT)\\b");
    private static final Pattern SEEN = Pattern.compile("\\.sees\\(|\\.tickets\\(\\)");

    /** The one place where the table stands for a person, then what Rafter does by itself. */
    private static final Map<String, String> TICKETS = Map.ofEntries(
            entry("house/access/Viewer", "is where reach is laid upon the table"),
            entry("house/criteria/CriteriaNames", "gathers the workspace's words for topics"),
            entry("house/criteria/CriteriaSql", "names a bearer of own fields, not the table"),
            entry("arrival/intake/Filing", "names what can become of a mail, not the table"),
            entry("arrival/sorting/Junk", "learns from all mail, and names none"),
            entry("handout/people/Workforce", "counts what each has, and names no ticket"),
            entry("handout/queues/Desk", "says the place of a ticket whose reach was asked among all that wait"),
            entry("arrival/chat/Chats", "shows a customer their own chat, and counts who waits before them"),
            entry("arrival/desk/ChatDesk", "asks for reach where it names tickets, and counts one's own"),
            entry("arrival/social/Posts", "asks for reach where it lists posts, and finds the ticket of a thread"),
            entry("arrival/telephone/CallBook", "finds the call of a ticket, and where it goes on"),
            entry("arrival/telephone/CallChoices", "lists topics, and names no ticket"),
            entry("arrival/telephone/CallSheets", "says of a ticket whose reach was asked when it is due"),
            entry("handout/queues/Knowing", "measures who knows what, and names no ticket"),
            entry("handout/queues/NextDues", "says when a ticket falls due whose reach was asked"),
            entry("handout/queues/Places", "lists what waits, of which its callers say what is seen"),
            entry("tickets/acts/Looks", "holds tickets for standing instructions"),
            entry("arrival/mail/Mailboxes", "keeps a mailbox as long as any ticket came by it"),
            entry("promises/targets/TargetDrafts", "counts what is to be recalculated"),
            entry("tickets/page/Conversation", "finds what became a part of a ticket that is seen"),
            entry("tickets/clocks/Recalculation", "recalculates all clocks"),
            entry("tickets/clocks/StepFiring", "fires steps"),
            entry("tickets/rules/RuleBooks", "counts whose timers are to be set"),
            entry("tickets/rules/Choosing", "finds who has the fewest tickets, and who answered a customer last"),
            entry("tickets/rules/RuleFiring", "holds what the rules are read for"),
            entry("tickets/rules/OtherForms", "asks whether any ticket has a word"),
            entry("tickets/rules/RuleShare", "counts what rules did, and names no ticket"),
            entry("tickets/acts/Causes", "leaves to a newer node what is a newer one's"),
            entry("tickets/rules/RuleTimers", "sets the timers of all"),
            entry("tickets/acts/TicketStore", "writes tickets, and holds one once its reach was asked"),
            entry("tickets/acts/CustomerFacts", "gives what promises ask about to those who hold a ticket"),
            entry("tickets/acts/WordsReader", "carries words over after an upgrade"),
            entry("tickets/acts/TicketJoining", "walks up from a ticket that is held to those it is a part of"),
            entry("tickets/acts/Arrivals", "finds where mail belongs"),
            entry("tickets/acts/OwnTrace", "says whether there is anything about a ticket whose reach was asked"),
            entry("tickets/acts/Traces", "names what hangs on a ticket whose reach was asked"),
            entry("tickets/acts/Tickets", "closes what was resolved long ago"),
            entry("tickets/acts/RecordedHistories", "gives histories to rehearsals, which count and name no customer"),
            entry("tickets/acts/CustomerMoves", "gives tickets to the contact that theirs was joined into"),
            entry("tickets/acts/CustomerNews", "tells tickets of their customers' changes"),
            entry("tickets/rating/RatingRequests", "asks customers how they were helped"),
            entry("tickets/request/RequestController", "shows a customer the request of theirs whose link they have"),
            entry("tickets/rating/Ratings", "shows a customer which request of theirs they rate"),
            entry("handout/consults/Rooms", "shows the ticket of a room to who was asked into it"),
            entry("handout/queues/FitPast", "rehearses over all tickets, and shows numbers alone"),
            entry("handout/queues/Past", "counts what each had, and names no ticket"),
            entry("tickets/acts/TicketTimes", "brings tickets back"));

    private static final Map<String, String> HANGING_ON_TICKETS = Map.ofEntries(
            entry("platform/Files", "clears away what nothing uses"),
            entry("house/criteria/CriteriaSql", "makes conditions on tickets that are selected elsewhere"),
            entry("house/criteria/TimeSql", "makes conditions on tickets that are selected elsewhere"),
            entry("house/notices/Notices", "asks whether anybody was told"),
            entry("arrival/intake/Inbox", "gives the last mails to who may change house rules"),
            entry("arrival/sorting/Junk", "learns from all mail, and names none"),
            entry("handout/consults/Rooms", "shows what was said with the customer to who was asked in"),
            entry("arrival/chat/ChatLines", "gives the files of a chat to whoever has it"),
            entry("arrival/desk/ChatDesk", "reads the clocks of chats whose reach was asked"),
            entry("handout/queues/FitPast", "counts who answered whom, and names no ticket"),
            entry("handout/queues/Knowing", "counts who answered whom, and names no ticket"),
            entry("tickets/acts/Acknowledgements", "answers the first message of a ticket that is held"),
            entry("arrival/intake/Rereader", "reads stored mails once more after an upgrade"),
            entry("tickets/page/Conversation", "reads a ticket whose reach was asked"),
            entry("tickets/acts/TicketStore", "reads a ticket whose reach was asked"),
            entry("tickets/acts/CustomerFacts", "gives what promises ask about to those who hold a ticket"),
            entry("tickets/acts/Splitting", "makes a ticket of an entry of one that is held"),
            entry("tickets/acts/EntryStore", "reads a ticket whose reach was asked"),
            entry("tickets/acts/OwnTrace", "says whether there is anything about a ticket whose reach was asked"),
            entry("tickets/acts/Arrivals", "finds where mail belongs"),
            entry("tickets/acts/WordsReader", "carries words over after an upgrade"),
            entry("tickets/acts/RecordedHistories", "gives histories to rehearsals"),
            entry("tickets/rules/Choosing", "finds who answered a customer last"),
            entry(
                    "tickets/rules/RulePast",
                    "gives what was written to rehearsals, and of a ticket whose reach was asked"),
            entry("tickets/writing/Answering", "reads a ticket whose reach was asked"),
            entry("tickets/acts/OwnWords", "reads a ticket that is held"),
            entry("tickets/acts/Spoken", "tells otherwise what a call of its own wrote"),
            entry("tickets/request/RequestController", "reads what is public of a ticket whose link was shown"),
            entry("tickets/files/TicketFiles", "reads a ticket whose reach was asked"),
            entry("tickets/outside/Post", "reads a thread of a ticket that is held"),
            entry("tickets/outside/Outside", "reads files and messages of a ticket whose reach was asked"),
            entry("tickets/outside/OutsideAnswers", "finds the thread of a mail"),
            entry("tickets/writing/Recipients", "reads a ticket whose reach was asked"),
            entry("work/search/KnownWords", "learns which words there are, whoever wrote them"),
            entry("tickets/writing/FileController", "asks of a file whether its entry is seen, in one statement"),
            entry("tickets/writing/Sending", "sends drafts for those who wrote them"),
            entry("tickets/writing/Drafts", "reads one's own drafts, and who writes beside one"));

    private static TreeMap<String, String> sources() {
        var found = new TreeMap<String, String>();
        Sources.all()
                .forEach((name, source) ->
                        found.put(name, COMMENTS.matcher(source).replaceAll("")));
        return found;
    }

    @Test
    void no_query_of_tickets_passes_by_who_looks() {
        var bare = new TreeSet<String>();
        sources().forEach((name, source) -> {
            if (BARE.matcher(source).find()) {
                bare.add(name);
            }
        });
        assertThat(bare)
                .as("ask viewer.tickets(), or say here why not")
                .containsExactlyInAnyOrderElementsOf(TICKETS.keySet());
    }

    @Test
    void nor_does_one_of_what_hangs_on_tickets() {
        var unseen = new TreeSet<String>();
        sources().forEach((name, source) -> {
            if (HANGING.matcher(source).results().count()
                    > SEEN.matcher(source).results().count()) {
                unseen.add(name);
            }
        });
        assertThat(unseen)
                .as("ask viewer.sees(), or say here why not")
                .containsExactlyInAnyOrderElementsOf(HANGING_ON_TICKETS.keySet());
    }
}
