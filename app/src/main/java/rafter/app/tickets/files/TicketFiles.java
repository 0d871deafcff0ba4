package rafter.app.tickets.files;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.MESSAGE;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.platform.FileSafety;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;

/** The files of tickets. */
@Component
class TicketFiles {

    private static final int MOST = 500;
    private static final int LETTERS_SHOWN = 400;
    private static final long LARGEST_SHOWN = 10_000_000;
    /** A longer text is read whole only by whoever opens it. */
    private static final long LARGEST_TEXT = 200_000;

    /** How a file can be shown small. */
    enum Preview {
        PICTURE,
        WORDS,
        NONE
    }

    /**
     * A file in a list.
     *
     * @param words how it begins, when it is a text
     */
    public record Line(
            long id,
            String name,
            String size,
            String who,
            String when,
            String exact,
            MessageId message,
            Preview preview,
            String words) {}

    /** A file with what is in it. */
    public record Content(String name, String mediaType, byte[] bytes) {}

    private final DSLContext sql;
    private final Files files;
    private final FileSafety safety;
    private final Viewers viewers;
    private final Targets targets;
    private final Clock clock;

    TicketFiles(DSLContext sql, Files files, FileSafety safety, Viewers viewers, Targets targets, Clock clock) {
        this.safety = safety;
        this.sql = sql;
        this.files = files;
        this.viewers = viewers;
        this.targets = targets;
        this.clock = clock;
    }

    /** All of a ticket, the latest first. */
    List<Line> of(TicketNumber number, Viewer me) {
        viewers.insist(me, number);
        Instant now = clock.instant();
        return sql.select(
                        ATTACHMENT.ID,
                        ATTACHMENT.NAME,
                        ATTACHMENT.SIZE,
                        MESSAGE.AUTHOR,
                        MESSAGE.AT,
                        MESSAGE.ID,
                        ATTACHMENT.MEDIA_TYPE,
                        ATTACHMENT.SHA256)
                .from(ATTACHMENT)
                .join(MESSAGE)
                .on(MESSAGE.ID.eq(ATTACHMENT.MESSAGE_ID))
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.TAKEN_BACK.isNull())
                .and(MESSAGE.SPLIT_INTO.isNull())
                .orderBy(MESSAGE.AT.desc(), ATTACHMENT.POSITION)
                .limit(MOST)
                .fetch(r -> {
                    Preview preview = preview(r.value7(), r.value2(), r.value3());
                    String words = preview == Preview.WORDS ? begin(r.value8()) : "";
                    return new Line(
                            r.value1(),
                            r.value2(),
                            Say.size(r.value3()),
                            r.value4(),
                            Say.when(r.value5(), now, targets.zone()),
                            Say.exactly(r.value5(), targets.zone()),
                            r.value6(),
                            preview == Preview.WORDS && words.isEmpty() ? Preview.NONE : preview,
                            words);
                });
    }

    private static Preview preview(String mediaType, String name, long size) {
        String type = mediaType.toLowerCase(Locale.ROOT);
        if (size > LARGEST_SHOWN) {
            return Preview.NONE;
        }
        if (type.matches("image/(png|jpeg|gif)") || isPdf(type, name)) {
            return Preview.PICTURE;
        }
        boolean text = type.startsWith("text/") && !type.equals("text/html");
        return text && size <= LARGEST_TEXT ? Preview.WORDS : Preview.NONE;
    }

    static boolean isPdf(String mediaType, String name) {
        return mediaType.equalsIgnoreCase("application/pdf")
                || (mediaType.equalsIgnoreCase("application/octet-stream")
                        && name.toLowerCase(Locale.ROOT).endsWith(".pdf"));
    }

    /** How a text begins; blank when something was found in it. */
    private String begin(byte[] sha256) {
        byte[] content = files.read(sha256);
        if (safety.found(content).isPresent()) {
            return "";
        }
        String text = new String(content, StandardCharsets.UTF_8);
        return text.length() > LETTERS_SHOWN ? text.substring(0, LETTERS_SHOWN) + " …" : text;
    }

    /**
     * One of a ticket.
     *
     * @throws Problem.NotFound when there is none of this number that the reader may see
     */
    Content content(TicketNumber number, long id, Viewer me) {
        viewers.insist(me, number);
        return sql.select(ATTACHMENT.NAME, ATTACHMENT.MEDIA_TYPE, ATTACHMENT.SHA256)
                .from(ATTACHMENT)
                .join(MESSAGE)
                .on(MESSAGE.ID.eq(ATTACHMENT.MESSAGE_ID))
                .where(MESSAGE.TICKET.eq(number))
                .and(ATTACHMENT.ID.eq(id))
                .and(ATTACHMENT.SIZE.le(LARGEST_SHOWN))
                .fetchOptional(r -> new Content(r.value1(), r.value2(), files.read(r.value3())))
                .orElseThrow(() -> new Problem.NotFound("There is no such file on ticket " + number + "."));
    }
}
