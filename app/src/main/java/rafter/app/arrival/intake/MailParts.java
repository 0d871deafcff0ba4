package rafter.app.arrival.intake;

import jakarta.mail.BodyPart;
import jakarta.mail.MessagingException;
import jakarta.mail.Part;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimePart;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import rafter.core.text.Flowed;

/**
 * Walks the parts of a mail: all its texts in their order, of alternatives the best, and its files. Bounded in depth, number and size: what
 * goes beyond is left in the raw message, which is always kept, and remarked upon. A mail with words is never left without any.
 */
final class MailParts {

    private static final int DEEPEST = 30;
    private static final int MOST_PARTS = 500;
    private static final int MOST_FILES = 100;
    /** More lines than this that look like boundaries, and the library would spend its memory on empty parts. */
    private static final int MOST_BOUNDARIES = 20_000;

    private static final int LONGEST_TEXT = 1_000_000;
    /** So much is shown of what cannot be taken apart. */
    private static final int LONGEST_RAW_TEXT = 100_000;

    private static final String SEE_ORIGINAL = " Open the original message to see ";
    private static final String TOO_MANY = "Some of its parts lie too deep or are too many." + SEE_ORIGINAL + "them.";

    private final List<ReadMail.Words> words = new ArrayList<>();
    private final List<ReadMail.Part> files = new ArrayList<>();
    private final List<String> remarks = new ArrayList<>();
    private final StringBuilder statusReport = new StringBuilder();
    private final StringBuilder returned = new StringBuilder();
    private boolean receipt;
    private int parts;
    private int letters;

    private MailParts() {}

    static MailParts of(MimeMessage message, byte[] raw) {
        var parts = new MailParts();
        if (boundaries(raw) > MOST_BOUNDARIES) {
            parts.remarks.add("It has too many parts to be taken apart." + SEE_ORIGINAL + "them.");
            parts.addRaw(message);
            return parts;
        }
        parts.visit(message, 0);
        if (!parts.hasWords()) {
            parts.fallBack(message);
        }
        return parts;
    }

    List<ReadMail.Words> words() {
        return List.copyOf(words);
    }

    List<ReadMail.Part> files() {
        return List.copyOf(files);
    }

    List<String> remarks() {
        return remarks.stream().distinct().toList();
    }

    /** The machine-readable part of a delivery report; empty when there is none. */
    String statusReport() {
        return statusReport.toString();
    }

    /** The header of a returned message; empty when there is none. */
    String returned() {
        return returned.toString();
    }

    boolean receipt() {
        return receipt;
    }

    private boolean hasWords() {
        return words.stream().anyMatch(one -> MailReader.hasWords(one));
    }

    private static int boundaries(byte[] raw) {
        int count = 0;
        for (int i = 0; i + 2 < raw.length; i++) {
            if (raw[i] == '\n' && raw[i + 1] == '-' && raw[i + 2] == '-') {
                count++;
            }
        }
        return count;
    }

    private void visit(Part part, int depth) {
        if (++parts > MOST_PARTS || depth > DEEPEST) {
            remarks.add(TOO_MANY);
            return;
        }
        try {
            dispatch(part, depth);
        } catch (MessagingException | IOException | RuntimeException e) {
            remarks.add("A part of it could not be read." + SEE_ORIGINAL + "it.");
        }
    }

    private void dispatch(Part part, int depth) throws MessagingException, IOException {
        MediaType type = MediaType.of(part);
        if (type.multipart()) {
            visitMultipart(part, type, depth);
        } else if (type.is("message/delivery-status", "message/global-delivery-status")) {
            statusReport.append(EightBit.decode(bytes(part), Optional.empty())).append("\n\n");
            file(part, type);
        } else if (type.is("message/disposition-notification", "message/global-disposition-notification")) {
            receipt = true;
            file(part, type);
        } else if (type.is(
                "text/rfc822-headers",
                "message/rfc822-headers",
                "message/rfc822",
                "message/global",
                "message/global-headers")) {
            returned.append(head(bytes(part))).append('\n');
            file(part, type);
        } else if (isText(part, type, depth)) {
            addText(part, type);
        } else {
            file(part, type);
        }
    }

    /** Of a returned message its header is enough. */
    private static String head(byte[] message) {
        String text = EightBit.decode(
                message.length > 20_000 ? java.util.Arrays.copyOf(message, 20_000) : message, Optional.empty());
        int end = text.replace("\r\n", "\n").indexOf("\n\n");
        return end < 0 ? text : text.substring(0, Math.min(text.length(), end + 2));
    }

    // ------------------------------------------------------------------ parts of parts

    private void visitMultipart(Part part, MediaType type, int depth) throws MessagingException, IOException {
        List<BodyPart> children = children(part, type);
        if (children.isEmpty()) {
            remarks.add("It could not be taken apart; this is its text as it was sent." + SEE_ORIGINAL + "all of it.");
            addRaw(part);
        } else if (type.is("multipart/alternative")) {
            visitAlternatives(children, depth);
        } else {
            children.forEach(child -> visit(child, depth + 1));
        }
    }

    private List<BodyPart> children(Part part, MediaType type) throws MessagingException, IOException {
        byte[] content = bytes(part);
        List<BodyPart> said = children(content, type, false);
        List<BodyPart> found = said.isEmpty() ? children(content, type, true) : said;
        if (found.size() > MOST_PARTS) {
            remarks.add(TOO_MANY);
            return found.subList(0, MOST_PARTS);
        }
        return found;
    }

    private static List<BodyPart> children(byte[] content, MediaType type, boolean anyBoundary) {
        var children = new ArrayList<BodyPart>();
        try {
            var multipart = new LenientMultipart(content, type, anyBoundary);
            int count = Math.min(multipart.getCount(), MOST_PARTS + 1);
            for (int i = 0; i < count; i++) {
                children.add(multipart.getBodyPart(i));
            }
        } catch (MessagingException | RuntimeException broken) {
            return children;
        }
        return children;
    }

    /** The last alternative that has words is the best, formatted before plain; files of the others are kept. */
    private void visitAlternatives(List<BodyPart> children, int depth) {
        var best = new ArrayList<ReadMail.Words>();
        boolean bestFormatted = false;
        int before = words.size();
        for (BodyPart child : children) {
            visit(child, depth + 1);
            var some = new ArrayList<>(words.subList(before, words.size()));
            words.subList(before, words.size()).clear();
            boolean formatted = some.stream().anyMatch(ReadMail.Words::formatted);
            if (some.stream().anyMatch(MailReader::hasWords) && (best.isEmpty() || formatted || !bestFormatted)) {
                best = some;
                bestFormatted = formatted;
            }
        }
        words.addAll(best);
    }

    // ------------------------------------------------------------------ texts

    private static boolean isText(Part part, MediaType type, int depth) throws MessagingException {
        boolean shown = type.is("text/plain", "text/html", "text/enriched");
        boolean named = !MailReader.fileName(part).isEmpty();
        return shown && !Part.ATTACHMENT.equalsIgnoreCase(disposition(part)) && (!named || depth == 0);
    }

    private static String disposition(Part part) {
        try {
            String disposition = part.getDisposition();
            return disposition == null ? "" : disposition;
        } catch (MessagingException e) {
            return "";
        }
    }

    private void addText(Part part, MediaType type) throws MessagingException, IOException {
        boolean formatted = type.is("text/html");
        String text = EightBit.decode(bytes(part), type.parameter("charset"));
        boolean flowed = !formatted
                && type.parameter("format").filter("flowed"::equalsIgnoreCase).isPresent();
        add(
                formatted,
                flowed
                        ? Flowed.join(
                                text,
                                type.parameter("delsp")
                                        .filter("yes"::equalsIgnoreCase)
                                        .isPresent())
                        : text);
    }

    private void add(boolean formatted, String text) {
        String clean = MailReader.clean(text);
        if (letters + clean.length() > LONGEST_TEXT) {
            remarks.add("Its text is very long and was cut." + SEE_ORIGINAL + "all of it.");
            clean = clean.substring(0, Math.max(0, LONGEST_TEXT - letters));
        }
        letters += clean.length();
        words.add(new ReadMail.Words(formatted, clean));
    }

    /** The text of something that cannot be taken apart, as it stands there. */
    private void addRaw(Part part) {
        try {
            String text = EightBit.decode(bytes(part), Optional.empty());
            add(false, text.length() > LONGEST_RAW_TEXT ? text.substring(0, LONGEST_RAW_TEXT) : text);
        } catch (MessagingException | IOException | RuntimeException unreadable) {
            remarks.add("Its text could not be read." + SEE_ORIGINAL + "it.");
        }
    }

    /** A mail whose words all lie in its files shows the first of these. */
    private void fallBack(MimeMessage message) {
        for (ReadMail.Part file : files) {
            if (file.mediaType().equals("text/plain") || file.mediaType().equals("text/html")) {
                add(file.mediaType().equals("text/html"), EightBit.decode(file.content(), Optional.empty()));
            } else if (file.mediaType().equals("message/rfc822")) {
                within(file.content()).forEach(one -> add(one.formatted(), one.text()));
            }
            if (hasWords()) {
                remarks.add("It has no text of its own; this is the text of its file “" + file.name() + "”.");
                return;
            }
        }
        if (files.isEmpty() && remarks.isEmpty() && MediaType.of(message).multipart()) {
            addRaw(message);
        }
    }

    private static List<ReadMail.Words> within(byte[] message) {
        try {
            return of(new MimeMessage(MailReader.session(), new ByteArrayInputStream(message)), message)
                    .words();
        } catch (MessagingException unreadable) {
            return List.of();
        }
    }

    // ------------------------------------------------------------------ files

    private void file(Part part, MediaType type) throws MessagingException, IOException {
        if (files.size() >= MOST_FILES) {
            remarks.add("It has more files than are shown." + SEE_ORIGINAL + "them all.");
            return;
        }
        String name = MailReader.fileName(part);
        files.add(new ReadMail.Part(
                name.isEmpty() ? nameFor(type.name()) : name, type.name(), contentId(part), bytes(part)));
    }

    private String nameFor(String type) {
        String ending = switch (type) {
            case "message/rfc822", "message/global" -> ".eml";
            case "text/calendar" -> ".ics";
            case "image/jpeg" -> ".jpg";
            case "application/pgp-signature" -> ".asc";
            case "application/pkcs7-signature", "application/x-pkcs7-signature" -> ".p7s";
            case "message/delivery-status", "text/rfc822-headers", "text/plain" -> ".txt";
            default ->
                type.matches("(image|audio|video)/[a-z0-9]{2,5}") ? "." + type.substring(type.indexOf('/') + 1) : "";
        };
        String base = switch (type) {
            case "text/calendar" -> "invitation";
            case "message/rfc822", "message/global" -> "message";
            case "message/delivery-status" -> "delivery-report";
            case "application/pgp-signature", "application/pkcs7-signature", "application/x-pkcs7-signature" ->
                "signature";
            default -> "file-" + (files.size() + 1);
        };
        return base + ending;
    }

    private static String contentId(Part part) throws MessagingException {
        String id = part instanceof MimePart mime ? mime.getContentID() : null;
        return id == null ? "" : MailReader.clean(id.strip().replaceAll("^<|>$", ""));
    }

    private static byte[] bytes(Part part) throws MessagingException, IOException {
        var out = new ByteArrayOutputStream();
        try (InputStream in = part.getInputStream()) {
            in.transferTo(out);
        } catch (IOException | MessagingException broken) {
            // An encoding that breaks off in the middle still gives what came before, an unknown one the bytes as they
            // are.
            if (out.size() == 0) {
                try (InputStream undecoded = undecoded(part)) {
                    undecoded.transferTo(out);
                }
            }
        }
        return out.toByteArray();
    }

    private static InputStream undecoded(Part part) throws MessagingException {
        return switch (part) {
            case MimeBodyPart body -> body.getRawInputStream();
            case MimeMessage message -> message.getRawInputStream();
            default -> InputStream.nullInputStream();
        };
    }
}
