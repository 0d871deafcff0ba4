package rafter.app.tickets.writing;

import static rafter.database.Tables.DRAFT_FILE;

import java.util.Arrays;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.platform.FileSafety;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.core.id.TicketNumber;

/** What is attached to drafts. */
@Component
public class DraftFiles {

    private static final long MOST_BYTES = 25_000_000;

    private final DSLContext sql;
    private final Drafts drafts;
    private final Files files;
    private final FileSafety safety;

    DraftFiles(DSLContext sql, Drafts drafts, Files files, FileSafety safety) {
        this.sql = sql;
        this.drafts = drafts;
        this.files = files;
        this.safety = safety;
    }

    /**
     * Attaches a file to a draft, which is begun if there is none.
     *
     * @throws Problem.Invalid when the files would be more than a mail may carry; the others stay
     */
    @Transactional
    public void attach(
            TicketNumber ticket, Drafts.Kind kind, String name, String mediaType, byte[] content, Viewer by) {
        safety.insist(content, name);
        add(ticket, kind, name, mediaType, content, "", by);
    }

    /**
     * Adds a picture that the text of a draft refers to; one that is there already is not added again.
     *
     * @param wanted the name by which the text is to refer to it
     * @return the name by which it does
     * @throws Problem.Invalid when the files would be more than a mail may carry; the others stay
     */
    @Transactional
    public String picture(
            TicketNumber ticket,
            Drafts.Kind kind,
            String name,
            String mediaType,
            byte[] content,
            String wanted,
            Viewer by) {
        byte[] sha256 = Files.sha256(content);
        Optional<String> there = drafts.find(ticket, kind, by).files().stream()
                .filter(file -> !file.contentId().isEmpty() && Arrays.equals(file.sha256(), sha256))
                .map(Drafts.DraftFile::contentId)
                .findFirst();
        if (there.isEmpty()) {
            add(ticket, kind, name, mediaType, content, wanted, by);
        }
        return there.orElse(wanted);
    }

    private void add(
            TicketNumber ticket,
            Drafts.Kind kind,
            String name,
            String mediaType,
            byte[] content,
            String contentId,
            Viewer by) {
        drafts.begin(ticket, kind, by);
        long already = drafts.find(ticket, kind, by).files().stream()
                .mapToLong(Drafts.DraftFile::size)
                .sum();
        if (already + content.length > MOST_BYTES) {
            throw new Problem.Invalid("“" + name + "” was not attached: the files of a reply may have "
                    + Say.size(MOST_BYTES) + " in all, and this would make " + Say.size(already + content.length)
                    + ". Your text and the other files are saved.");
        }
        sql.insertInto(DRAFT_FILE)
                .set(DRAFT_FILE.TICKET, ticket)
                .set(DRAFT_FILE.PERSON_ID, by.id())
                .set(DRAFT_FILE.KIND, kind.name())
                .set(DRAFT_FILE.SHA256, files.keepOnceMore(content))
                .set(DRAFT_FILE.NAME, name)
                .set(DRAFT_FILE.MEDIA_TYPE, mediaType)
                .set(DRAFT_FILE.SIZE, (long) content.length)
                .set(DRAFT_FILE.CONTENT_ID, contentId)
                .execute();
    }

    /**
     * A picture of a person's own draft.
     *
     * @throws Problem.NotFound when there is none of this name
     */
    public Drafts.DraftFile pictureOf(String contentId, Viewer by) {
        return sql.selectFrom(DRAFT_FILE)
                .where(DRAFT_FILE.CONTENT_ID.eq(contentId))
                .and(DRAFT_FILE.PERSON_ID.eq(by.id()))
                .limit(1)
                .fetchOptional(f -> new Drafts.DraftFile(
                        f.getId(), f.getName(), f.getMediaType(), f.getSize(), f.getSha256(), f.getContentId()))
                .orElseThrow(() -> new Problem.NotFound("There is no such picture."));
    }

    /** Takes a file off a draft. */
    @Transactional
    public void detach(TicketNumber ticket, Drafts.Kind kind, long file, Viewer by) {
        files.dropped(drafts.find(ticket, kind, by).files().stream()
                .filter(one -> one.id() == file)
                .map(Drafts.DraftFile::sha256)
                .toList());
        sql.deleteFrom(DRAFT_FILE)
                .where(DRAFT_FILE.ID.eq(file))
                .and(DRAFT_FILE.TICKET.eq(ticket))
                .and(DRAFT_FILE.KIND.eq(kind.name()))
                .and(DRAFT_FILE.PERSON_ID.eq(by.id()))
                .execute();
    }
}
