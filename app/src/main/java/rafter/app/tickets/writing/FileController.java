package rafter.app.tickets.writing;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.INBOUND;
import static rafter.database.Tables.MESSAGE;

import java.nio.charset.StandardCharsets;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.FileSafety;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;
import rafter.core.id.MessageId;

/** Gives out files: harmless pictures to be shown, everything else only to be saved. */
@Controller
class FileController {

    private static final Set<String> SHOWN = Set.of("image/png", "image/jpeg", "image/gif", "image/webp");

    private final DSLContext sql;
    private final Files files;
    private final FileSafety safety;
    private final DraftFiles drafts;
    private final Access access;

    FileController(DSLContext sql, Files files, FileSafety safety, DraftFiles drafts, Access access) {
        this.safety = safety;
        this.sql = sql;
        this.files = files;
        this.drafts = drafts;
        this.access = access;
    }

    @GetMapping("/files/{id}")
    ResponseEntity<byte[]> file(@PathVariable long id) {
        Viewer me = access.require(Right.WORK);
        var row = sql.selectFrom(ATTACHMENT)
                .where(ATTACHMENT.ID.eq(id))
                .and(ATTACHMENT.MESSAGE_ID.in(
                        DSL.select(MESSAGE.ID).from(MESSAGE).where(me.sees(MESSAGE.TICKET))))
                .fetchOptional()
                .orElseThrow(() -> new Problem.NotFound("There is no such file."));
        boolean shown = SHOWN.contains(row.getMediaType());
        byte[] content = files.read(row.getSha256());
        safety.insist(content, row.getName());
        return give(
                content,
                row.getName(),
                shown ? MediaType.parseMediaType(row.getMediaType()) : MediaType.APPLICATION_OCTET_STREAM,
                shown);
    }

    /** A picture within the text of one's own draft. */
    @GetMapping("/drafts/pictures/{contentId}")
    ResponseEntity<byte[]> picture(@PathVariable String contentId) {
        Drafts.DraftFile file = drafts.pictureOf(contentId, access.require(Right.WORK));
        return give(files.read(file.sha256()), file.name(), MediaType.parseMediaType(file.mediaType()), true);
    }

    /** A message as it was sent. */
    @GetMapping("/messages/{id}/raw")
    ResponseEntity<byte[]> raw(@PathVariable MessageId id) {
        Viewer me = access.require(Right.WORK);
        byte[] sha256 = sql.select(INBOUND.RAW)
                .from(MESSAGE)
                .join(INBOUND)
                .on(INBOUND.ID.eq(MESSAGE.INBOUND_ID))
                .where(MESSAGE.ID.eq(id))
                .and(me.sees(MESSAGE.TICKET))
                .fetchOptional(INBOUND.RAW)
                .orElseThrow(() -> new Problem.NotFound("There is no such message."));
        byte[] content = files.read(sha256);
        String name = "message-" + id + ".eml";
        safety.insist(content, name);
        return give(content, name, MediaType.APPLICATION_OCTET_STREAM, false);
    }

    private static ResponseEntity<byte[]> give(byte[] content, String name, MediaType type, boolean inline) {
        var disposition = (inline ? ContentDisposition.inline() : ContentDisposition.attachment())
                .filename(name, StandardCharsets.UTF_8)
                .build();
        return ResponseEntity.ok()
                .contentType(type)
                .header(HttpHeaders.CONTENT_DISPOSITION, disposition.toString())
                .header("X-Content-Type-Options", "nosniff")
                .header(HttpHeaders.CACHE_CONTROL, "private, max-age=86400, immutable")
                .body(content);
    }
}
