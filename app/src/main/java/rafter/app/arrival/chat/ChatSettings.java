package rafter.app.arrival.chat;

import static rafter.database.Tables.CHAT_RULES;

import java.time.Duration;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.OneDocument;
import rafter.app.platform.Problem;
import rafter.core.chat.ChatRules;
import rafter.core.chat.Gathering;
import rafter.core.id.PersonId;

/** How this workspace chats. */
@Component
public class ChatSettings {

    /** The rules as they are kept; {@code version} rises with every change. */
    public record Kept(ChatRules rules, int version) {}

    private record Asked(String ask, String into, List<String> choices) {
        static Asked of(Gathering.Question one) {
            return new Asked(one.ask(), key(one.into()), one.choices());
        }

        Gathering.Question question() {
            return new Gathering.Question(into, ask, ChatSettings.into(into), choices);
        }
    }

    private record Document(boolean open, String greeting, long patienceSeconds, List<Asked> questions) {
        static Document of(ChatRules rules) {
            return new Document(
                    rules.open(),
                    rules.greeting(),
                    rules.patience().toSeconds(),
                    rules.gathering().questions().stream().map(Asked::of).toList());
        }

        ChatRules rules() {
            return new ChatRules(
                    open,
                    greeting,
                    Duration.ofSeconds(patienceSeconds),
                    new Gathering(questions.stream().map(Asked::question).toList()));
        }
    }

    private static final String FIELD = "field:";

    private final OneDocument<Document> document;
    private final Audit audit;
    private final Guard guard;
    private final BrieflyCached<ChatRules> current = new BrieflyCached<>(Duration.ofSeconds(1), () -> kept().rules());

    ChatSettings(DSLContext sql, Audit audit, Guard guard) {
        this.document = OneDocument.rowOf(sql, CHAT_RULES, Document.class);
        this.audit = audit;
        this.guard = guard;
    }

    /** Where an answer goes, as it is kept; it is the key of its question, too, so that no two go to one place. */
    static String key(Gathering.Into into) {
        return switch (into) {
            case Gathering.Into.Name name -> "name";
            case Gathering.Into.Address address -> "address";
            case Gathering.Into.Topic topic -> "topic";
            case Gathering.Into.Field field -> FIELD + field.key();
        };
    }

    /** What {@link #key} wrote. */
    static Gathering.Into into(String key) {
        return switch (key) {
            case "name" -> new Gathering.Into.Name();
            case "address" -> new Gathering.Into.Address();
            case "topic" -> new Gathering.Into.Topic();
            default -> new Gathering.Into.Field(key.startsWith(FIELD) ? key.substring(FIELD.length()) : key);
        };
    }

    /** The rules; a change of another node's is seen within a second. */
    public ChatRules rules() {
        return current.get();
    }

    /** The rules as they are kept, looked up now. */
    public Kept kept() {
        return document.kept()
                .map(kept -> new Kept(kept.document().rules(), kept.version()))
                .orElse(new Kept(ChatRules.usual(), 0));
    }

    /**
     * Changes them.
     *
     * @throws Problem.Invalid when something is wrong with them
     * @throws Problem.Stale when somebody changed them since
     */
    @Transactional
    public void save(ChatRules rules, int version, PersonId by) {
        guard.houseRules(by);
        List<String> faults = rules.faults();
        if (!faults.isEmpty()) {
            throw new Problem.Invalid(String.join(" ", faults));
        }
        document.save(Document.of(rules), version);
        audit.note(by, "changed how we chat", "");
        current.forget();
    }
}
