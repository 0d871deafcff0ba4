package rafter.app.work.imports;

import static rafter.database.Tables.CONTACT_IMPORT;
import static rafter.database.Tables.CONTACT_IMPORT_PROBLEM;

import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.people.ContactBulk;
import rafter.app.house.people.ContactCard;
import rafter.app.platform.Audit;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Problem;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.people.IncomingContact;
import rafter.database.tables.records.ContactImportRecord;

/** Brings contacts in from files: tried first, then in parts beside everything else, each row once. */
@Component
public class Imports implements BackgroundWork.InParts {

    static final String KIND = "import-contacts";
    private static final int PART = 1_000;
    private static final int PROBLEMS_SHOWN = 200;
    private static final List<String> CHARSETS = List.of("UTF-8", "windows-1252", "ISO-8859-15", "UTF-16");

    /**
     * What would come of a file.
     *
     * @param wrong rows that cannot be taken, and why, by their number
     */
    record Tried(int added, int changed, int same, Map<Integer, String> wrong) {

        /** Those that are shown. */
        public List<Map.Entry<Integer, String>> shown() {
            return wrong.entrySet().stream().limit(PROBLEMS_SHOWN).toList();
        }
    }

    /** A file that was read last, so that its parts need not read it anew. */
    private record Cached(long id, String charset, ContactTable table) {}

    /** In which rows of a file addresses come first, as long as its columns are what they are. */
    private record Seen(long id, String charset, List<String> mapping, Map<String, Integer> lines) {}

    private final DSLContext sql;
    private final ContactBulk bulk;
    private final BackgroundWork work;
    private final Audit audit;
    private final Clock clock;
    private volatile Optional<Cached> last = Optional.empty();
    private volatile Optional<Seen> lastSeen = Optional.empty();

    Imports(DSLContext sql, ContactBulk bulk, BackgroundWork work, Audit audit, Clock clock) {
        this.sql = sql;
        this.bulk = bulk;
        this.work = work;
        this.audit = audit;
        this.clock = clock;
    }

    /**
     * Takes a file; nothing of it is imported yet.
     *
     * @throws Problem.Invalid when it is no file of contacts
     */
    @Transactional
    public long take(String name, byte[] content, Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        if (content.length == 0) {
            throw new Problem.Invalid("The file is empty, or none was chosen.");
        }
        String kind = ContactTable.cards(content) ? "VCARD" : "CSV";
        String charset = ContactTable.charset(content);
        ContactTable table = ContactTable.read(content, kind, charset);
        return sql.insertInto(CONTACT_IMPORT)
                .set(CONTACT_IMPORT.PERSON_ID, me.id())
                .set(CONTACT_IMPORT.AT, clock.instant())
                .set(CONTACT_IMPORT.NAME, name.length() > 200 ? name.substring(0, 200) : name)
                .set(CONTACT_IMPORT.KIND, kind)
                .set(CONTACT_IMPORT.CONTENT, content)
                .set(CONTACT_IMPORT.CHARSET, charset)
                .set(CONTACT_IMPORT.MAPPING, table.guessed(kind.equals("VCARD")).toArray(String[]::new))
                .returning(CONTACT_IMPORT.ID)
                .fetchSingle(CONTACT_IMPORT.ID);
    }

    /** The latest imports, without their files. */
    List<ContactImportRecord> latest(Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        return sql.select(
                        CONTACT_IMPORT.ID,
                        CONTACT_IMPORT.NAME,
                        CONTACT_IMPORT.AT,
                        CONTACT_IMPORT.ADDED,
                        CONTACT_IMPORT.CHANGED,
                        CONTACT_IMPORT.SAME,
                        CONTACT_IMPORT.BEGUN)
                .from(CONTACT_IMPORT)
                .orderBy(CONTACT_IMPORT.ID.desc())
                .limit(20)
                .fetchInto(CONTACT_IMPORT);
    }

    /**
     * An import.
     *
     * @throws Problem.NotFound when there is none of this number
     */
    ContactImportRecord find(long id, Viewer me) {
        Access.require(me, Right.HOUSE_RULES);
        return found(id);
    }

    private ContactImportRecord found(long id) {
        // Without the file itself, which is megabytes.
        return sql.select(Arrays.stream(CONTACT_IMPORT.fields())
                        .filter(field -> !field.equals(CONTACT_IMPORT.CONTENT))
                        .toList())
                .from(CONTACT_IMPORT)
                .where(CONTACT_IMPORT.ID.eq(id))
                .fetchOptionalInto(CONTACT_IMPORT)
                .orElseThrow(() -> new Problem.NotFound("There is no such import."));
    }

    /** Its file as a table. */
    ContactTable table(ContactImportRecord row) {
        Optional<Cached> known =
                last.filter(one -> one.id() == row.getId() && one.charset().equals(row.getCharset()));
        if (known.isPresent()) {
            return known.get().table();
        }
        ContactTable table = ContactTable.read(content(row.getId()), row.getKind(), row.getCharset());
        last = Optional.of(new Cached(row.getId(), row.getCharset(), table));
        return table;
    }

    private byte[] content(long id) {
        return sql.select(CONTACT_IMPORT.CONTENT)
                .from(CONTACT_IMPORT)
                .where(CONTACT_IMPORT.ID.eq(id))
                .fetchSingle(CONTACT_IMPORT.CONTENT);
    }

    /** Into which sorts of text a file can be read. */
    static List<String> charsets() {
        return CHARSETS;
    }

    /**
     * Says which column goes where.
     *
     * @param mapping what each column is; blank: it is left out
     */
    @Transactional
    void map(long id, List<String> mapping, String charset, boolean updates, Viewer me) {
        ContactImportRecord row = find(id, me);
        if (row.getBegun()) {
            throw new Problem.Stale("This import has begun already, so its columns stay as they are.");
        }
        if (!CHARSETS.contains(charset)) {
            throw new Problem.Invalid("Choose one of the encodings.");
        }
        if (!mapping.contains("address")) {
            throw new Problem.Invalid(
                    "Say which column has the mail addresses: by them contacts are recognised. Nothing was imported.");
        }
        sql.update(CONTACT_IMPORT)
                .set(CONTACT_IMPORT.MAPPING, mapping.toArray(String[]::new))
                .set(CONTACT_IMPORT.CHARSET, charset)
                .set(CONTACT_IMPORT.UPDATES, updates)
                .where(CONTACT_IMPORT.ID.eq(id))
                .execute();
    }

    // ------------------------------------------------------------------ what would come of it

    /** What is to be done with rows, by their number in the file; the first line after the headings is 2. */
    private record Sorted(
            List<IncomingContact> added, Map<ContactId, IncomingContact> changed, Map<Integer, String> wrong) {}

    /** What would come of it; nothing is imported. */
    @Transactional(readOnly = true)
    Tried attempt(long id, Viewer me) {
        ContactImportRecord row = find(id, me);
        ContactTable table = table(row);
        var wrong = new TreeMap<Integer, String>();
        int added = 0;
        int changed = 0;
        int same = 0;
        Map<String, Integer> seen = seen(table, row);
        for (int from = 0; from < table.rows().size(); from += PART) {
            int to = Math.min(table.rows().size(), from + PART);
            Sorted sorted = sorted(table, row, from, to, seen);
            wrong.putAll(sorted.wrong());
            added += sorted.added().size();
            int differ = row.getUpdates() ? differing(sorted.changed()) : 0;
            changed += differ;
            same += sorted.changed().size() - differ;
        }
        return new Tried(added, changed, same, wrong);
    }

    /** How many of them would become another by what the file has of them. */
    private int differing(Map<ContactId, IncomingContact> all) {
        Map<ContactId, ContactCard> cards = bulk.cards(all.keySet());
        Map<String, CompanyId> firms = bulk.companies(
                all.values().stream().map(IncomingContact::company).toList());
        return (int) cards.values().stream()
                .filter(card -> Optional.ofNullable(all.get(card.id()))
                        .filter(more -> bulk.isNew(more.company(), firms)
                                || !bulk.with(card, more, firms).equals(card))
                        .isPresent())
                .count();
    }

    /** In which row each address comes first. */
    private Map<String, Integer> seen(ContactTable table, ContactImportRecord row) {
        List<String> mapping = List.of(row.getMapping());
        Optional<Seen> known = lastSeen.filter(one -> one.id() == row.getId()
                && one.charset().equals(row.getCharset())
                && one.mapping().equals(mapping));
        if (known.isPresent()) {
            return known.get().lines();
        }
        var seen = new HashMap<String, Integer>();
        for (int i = 0; i < table.rows().size(); i++) {
            if (IncomingContact.of(mapping, table.rows().get(i)) instanceof IncomingContact.Read.Fine fine) {
                int line = i + 2;
                fine.contact().addresses().forEach(address -> seen.putIfAbsent(address, line));
            }
        }
        lastSeen = Optional.of(new Seen(row.getId(), row.getCharset(), mapping, seen));
        return seen;
    }

    private Sorted sorted(ContactTable table, ContactImportRecord row, int from, int to, Map<String, Integer> seen) {
        var wrong = new LinkedHashMap<Integer, String>();
        Map<Integer, IncomingContact> fine = fine(table, row, from, to, seen, wrong);
        Map<String, ContactId> owners = bulk.owners(
                fine.values().stream().flatMap(one -> one.addresses().stream()).toList());
        var added = new ArrayList<IncomingContact>();
        var changed = new LinkedHashMap<ContactId, IncomingContact>();
        fine.forEach((line, contact) -> {
            List<ContactId> whose = contact.addresses().stream()
                    .flatMap(address -> Optional.ofNullable(owners.get(address)).stream())
                    .distinct()
                    .toList();
            if (whose.isEmpty()) {
                added.add(contact);
            } else if (whose.size() > 1 || changed.containsKey(whose.getFirst())) {
                wrong.put(
                        line,
                        "Its addresses belong to several contacts, or to one that another line is about. Join them first.");
            } else {
                changed.put(whose.getFirst(), contact);
            }
        });
        return new Sorted(added, changed, wrong);
    }

    /** The lines that can be read, by their place in the file; why the others cannot is put among the wrong ones. */
    private Map<Integer, IncomingContact> fine(
            ContactTable table,
            ContactImportRecord row,
            int from,
            int to,
            Map<String, Integer> seen,
            Map<Integer, String> wrong) {
        List<String> mapping = Arrays.asList(row.getMapping());
        var fine = new LinkedHashMap<Integer, IncomingContact>();
        for (int i = from; i < to; i++) {
            int line = i + 2;
            switch (IncomingContact.of(mapping, table.rows().get(i))) {
                case IncomingContact.Read.Wrong no -> wrong.put(line, no.why());
                case IncomingContact.Read.Fine read -> {
                    Optional<String> why = read.contact().addresses().stream()
                            .filter(address -> seen.getOrDefault(address, line) < line)
                            .findFirst()
                            .map(address -> address + " stands in line " + seen.get(address) + " already.")
                            .or(() -> bulk.hindrance(read.contact()));
                    why.ifPresentOrElse(words -> wrong.put(line, words), () -> fine.put(line, read.contact()));
                }
            }
        }
        return fine;
    }

    // ------------------------------------------------------------------ doing it

    /** Begins the import; it goes on beside everything else. */
    @Transactional
    public void begin(long id, Viewer me) {
        ContactImportRecord row = find(id, me);
        int begun = sql.update(CONTACT_IMPORT)
                .set(CONTACT_IMPORT.BEGUN, true)
                .where(CONTACT_IMPORT.ID.eq(id))
                .and(CONTACT_IMPORT.BEGUN.isFalse())
                .execute();
        if (begun == 0) {
            return;
        }
        audit.note(me.id(), "imported contacts", row.getName());
        work.begin(KIND, id, table(row).rows().size(), Optional.of(me.id()));
    }

    /** How it stands; nothing before it was begun. */
    Optional<BackgroundWork.Work> progress(long id) {
        return work.find(KIND, id);
    }

    void cancel(long id, Viewer me) {
        find(id, me);
        work.cancel(KIND, id);
    }

    /** Does what is left of it now, for those who wait for it. */
    public void run(long id) {
        work.run(KIND, id);
    }

    /** The rows that could not be taken. */
    Map<Integer, String> problems(long id) {
        return sql.selectFrom(CONTACT_IMPORT_PROBLEM)
                .where(CONTACT_IMPORT_PROBLEM.IMPORT_ID.eq(id))
                .orderBy(CONTACT_IMPORT_PROBLEM.ROW_NUMBER)
                .fetchMap(CONTACT_IMPORT_PROBLEM.ROW_NUMBER, CONTACT_IMPORT_PROBLEM.REASON);
    }

    @Override
    public String key() {
        return KIND;
    }

    @Override
    public int size() {
        return PART;
    }

    @Override
    public BackgroundWork.Part part(BackgroundWork.Work there, int most) {
        ContactImportRecord row = found(there.about());
        ContactTable table = table(row);
        int from = (int) there.position();
        int to = Math.min(table.rows().size(), from + most);
        if (from >= to) {
            return new BackgroundWork.Part(0, from);
        }
        Sorted sorted = sorted(table, row, from, to, seen(table, row));
        Map<String, CompanyId> firms = firms(sorted, row);
        bulk.add(sorted.added(), firms);
        int changed = row.getUpdates() ? update(sorted, firms, row.getPersonId()) : 0;
        sorted.wrong().forEach((line, why) -> problem(row.getId(), line, why));
        sql.update(CONTACT_IMPORT)
                .set(
                        CONTACT_IMPORT.ADDED,
                        CONTACT_IMPORT.ADDED.plus(sorted.added().size()))
                .set(CONTACT_IMPORT.CHANGED, CONTACT_IMPORT.CHANGED.plus(changed))
                .set(
                        CONTACT_IMPORT.SAME,
                        CONTACT_IMPORT.SAME.plus(sorted.changed().size() - changed))
                .where(CONTACT_IMPORT.ID.eq(row.getId()))
                .execute();
        return new BackgroundWork.Part(to - from, to);
    }

    private Map<String, CompanyId> firms(Sorted sorted, ContactImportRecord row) {
        var names = new ArrayList<>(
                sorted.added().stream().map(IncomingContact::company).toList());
        if (row.getUpdates()) {
            sorted.changed().values().forEach(one -> names.add(one.company()));
        }
        return bulk.companiesMade(names.stream().distinct().toList(), row.getPersonId());
    }

    private int update(Sorted sorted, Map<String, CompanyId> firms, PersonId by) {
        Map<ContactId, ContactCard> cards = bulk.cards(sorted.changed().keySet());
        var changes = new ArrayList<ContactBulk.Change>();
        sorted.changed()
                .forEach((id, more) -> Optional.ofNullable(cards.get(id)).ifPresent(card -> {
                    ContactCard next = bulk.with(card, more, firms);
                    if (!next.equals(card)) {
                        changes.add(new ContactBulk.Change(card, next));
                    }
                }));
        bulk.change(changes, by);
        return changes.size();
    }

    private void problem(long id, int line, String why) {
        sql.insertInto(CONTACT_IMPORT_PROBLEM)
                .values(id, line, why)
                .onConflictDoNothing()
                .execute();
    }

    @Override
    public long failed(BackgroundWork.Work there, String reason) {
        problem(there.about(), (int) there.position() + 2, reason);
        return there.position() + 1;
    }
}
