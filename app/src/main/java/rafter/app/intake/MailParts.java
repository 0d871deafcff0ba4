package rafter.app.intake;

import jakarta.mail.BodyPart;
import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.Part;
import jakarta.mail.internet.ContentType;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimePart;
import jakarta.mail.internet.ParseException;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Walks the parts of a mail. Bounded in depth, number and size: what goes beyond is left in the raw message, which is always
 * kept, and remarked upon.
 */
final class MailParts {

    private static final int DEEPEST = 30;
    private static final int MOST_PARTS = 500;
    private static final int MOST_FILES = 100;
    /** More lines than this that look like boundaries, and the library would spend its memory on empty parts. */
    private static final int MOST_BOUNDARIES = 20_000;
    private static final int LONGEST_TEXT = 1_000_000;
    private static final Pattern RETURNED_ID =
            Pattern.compile("(?im)^(?:original-)?message-id:\\s*(<[^<>\\s]{3,400}>)");

    private record Level(Part part, int depth) {}

    private final ArrayDeque<Level> ahead = new ArrayDeque<>();
    private final StringBuilder text = new StringBuilder();
    private final StringBuilder html = new StringBuilder();
    private final List<ReadMail.Part> files = new ArrayList<>();
    private final List<String> remarks = new ArrayList<>();
    private Optional<String> returnedMessageId = Optional.empty();
    private boolean deliveryReport;
    private int parts;

    private MailParts() {}

    static MailParts of(MimeMessage message, byte[] raw) {
        var parts = new MailParts();
        if (boundaries(raw) > MOST_BOUNDARIES) {
            parts.remarks.add("It has too many parts to be taken apart; open the message as it came to see them.");
            return parts;
        }
        parts.ahead.push(new Level(message, 0));
        while (!parts.ahead.isEmpty()) {
            parts.visit(parts.ahead.pop());
        }
        return parts;
    }

    Optional<String> text() {
        return text.isEmpty() ? Optional.empty() : Optional.of(text.toString());
    }

    Optional<String> html() {
        return html.isEmpty() ? Optional.empty() : Optional.of(html.toString());
    }

    List<ReadMail.Part> files() {
        return List.copyOf(files);
    }

    List<String> remarks() {
        return remarks.stream().distinct().toList();
    }

    boolean hasDeliveryReport() {
        return deliveryReport;
    }

    Optional<String> returnedMessageId() {
        return returnedMessageId;
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

    private void visit(Level level) {
        if (++parts > MOST_PARTS || level.depth() > DEEPEST) {
            remarks.add("Some of its parts lie too deep or are too many; open the message as it came to see them.");
            return;
        }
        try {
            dispatch(level);
        } catch (MessagingException | IOException | RuntimeException e) {
            remarks.add("A part of it could not be read; open the message as it came to see it.");
        }
    }

    private void dispatch(Level level) throws MessagingException, IOException {
        Part part = level.part();
        String type = mediaType(part);
        if (type.startsWith("multipart/") && part.getContent() instanceof Multipart multipart) {
            visitAll(multipart, level);
        } else if (type.equals("message/delivery-status")) {
            deliveryReport = true;
            noteReturned(part);
            file(part, type);
        } else if (type.equals("text/rfc822-headers") || type.equals("message/rfc822-headers")) {
            noteReturned(part);
            file(part, type);
        } else if (type.equals("message/rfc822") || type.equals("message/global")) {
            noteReturned(part);
            file(part, type);
        } else if (isText(part, type)) {
            addText(part, type);
        } else {
            file(part, type);
        }
    }

    private void visitAll(Multipart multipart, Level level) throws MessagingException {
        int count = multipart.getCount();
        if (count > MOST_PARTS) {
            remarks.add("Some of its parts lie too deep or are too many; open the message as it came to see them.");
        }
        // Pushed backwards, so that they are read in their order.
        for (int i = Math.min(count, MOST_PARTS) - 1; i >= 0; i--) {
            BodyPart child = multipart.getBodyPart(i);
            ahead.push(new Level(child, level.depth() + 1));
        }
    }

    private static boolean isText(Part part, String type) throws MessagingException {
        boolean words = type.equals("text/plain") || type.equals("text/html") || type.equals("text/enriched");
        return words && !Part.ATTACHMENT.equalsIgnoreCase(disposition(part)) && MailReader.fileName(part).isEmpty();
    }

    private static String disposition(Part part) {
        try {
            String disposition = part.getDisposition();
            return disposition == null ? "" : disposition;
        } catch (MessagingException e) {
            return "";
        }
    }

    private void addText(Part part, String type) throws MessagingException, IOException {
        StringBuilder into = type.equals("text/html") ? html : text;
        String words = MailReader.clean(EightBit.decode(bytes(part), charset(part)));
        if (into.length() + words.length() > LONGEST_TEXT) {
            remarks.add("Its text is very long and was cut; open the message as it came to see all of it.");
            words = words.substring(0, Math.max(0, Math.min(words.length(), LONGEST_TEXT - into.length())));
        }
        if (!into.isEmpty()) {
            into.append(type.equals("text/html") ? "<br>" : "\n\n");
        }
        into.append(words);
    }

    private void file(Part part, String type) throws MessagingException, IOException {
        if (files.size() >= MOST_FILES) {
            remarks.add("It has more files than are shown; open the message as it came to see them all.");
            return;
        }
        String name = MailReader.fileName(part);
        files.add(new ReadMail.Part(name.isEmpty() ? nameFor(type) : name, type, contentId(part), bytes(part)));
    }

    private String nameFor(String type) {
        String ending =
                switch (type) {
                    case "message/rfc822", "message/global" -> ".eml";
                    case "text/calendar" -> ".ics";
                    case "image/jpeg" -> ".jpg";
                    case "application/pgp-signature" -> ".asc";
                    case "application/pkcs7-signature", "application/x-pkcs7-signature" -> ".p7s";
                    case "message/delivery-status", "text/rfc822-headers", "text/plain" -> ".txt";
                    default -> type.matches("(image|audio|video)/[a-z0-9]{2,5}") ? "." + type.substring(type.indexOf('/') + 1) : "";
                };
        String base =
                switch (type) {
                    case "text/calendar" -> "invitation";
                    case "message/rfc822", "message/global" -> "message";
                    case "message/delivery-status" -> "delivery-report";
                    case "application/pgp-signature", "application/pkcs7-signature", "application/x-pkcs7-signature" -> "signature";
                    default -> "file-" + (files.size() + 1);
                };
        return base + ending;
    }

    private void noteReturned(Part part) throws MessagingException, IOException {
        if (returnedMessageId.isEmpty()) {
            Matcher found = RETURNED_ID.matcher(EightBit.decode(bytes(part), Optional.empty()));
            returnedMessageId = found.find() ? Optional.of(found.group(1)) : Optional.empty();
        }
    }

    private static String contentId(Part part) throws MessagingException {
        String id = part instanceof MimePart mime ? mime.getContentID() : null;
        return id == null ? "" : MailReader.clean(id.strip().replaceAll("^<|>$", ""));
    }

    private static Optional<String> charset(Part part) throws MessagingException {
        try {
            return Optional.ofNullable(new ContentType(part.getContentType()).getParameter("charset"));
        } catch (ParseException broken) {
            Matcher found = Pattern.compile("charset\\s*=\\s*\"?([\\w.:-]+)", Pattern.CASE_INSENSITIVE).matcher(part.getContentType());
            return found.find() ? Optional.of(found.group(1)) : Optional.empty();
        }
    }

    private static String mediaType(Part part) throws MessagingException {
        String type = part.getContentType();
        String plain = type == null ? "" : type.replaceFirst(";.*(?s).*", "").strip().toLowerCase(Locale.ROOT);
        return plain.matches("[a-z0-9!#$&^_.+-]+/[a-z0-9!#$&^_.+-]+") ? plain : plain.equals("text") ? "text/plain" : "application/octet-stream";
    }

    private static byte[] bytes(Part part) throws MessagingException, IOException {
        var out = new ByteArrayOutputStream();
        try (InputStream in = part.getInputStream()) {
            in.transferTo(out);
        } catch (IOException | MessagingException broken) {
            // An encoding that breaks off in the middle still gives what came before, an unknown one the bytes as they are.
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
