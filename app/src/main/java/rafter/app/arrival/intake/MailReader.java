package rafter.app.arrival.intake;

import jakarta.mail.Header;
import jakarta.mail.MessagingException;
import jakarta.mail.Part;
import jakarta.mail.Session;
import jakarta.mail.internet.AddressException;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeUtility;
import java.io.ByteArrayInputStream;
import java.io.UnsupportedEncodingException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.regex.Pattern;
import rafter.app.platform.MailLibrary;
import rafter.core.text.Bounces;
import rafter.core.text.MailAddress;
import rafter.core.text.MailKind;
import rafter.core.text.MailKinds;
import rafter.core.text.MailSigns;

/**
 * Understands a mail from its bytes, as far as it can be understood. Whatever is broken in it is left out and remarked upon;
 * only what cannot be read as a mail at all is refused.
 */
final class MailReader {

    private static final int MOST_REFERENCES = 50;
    private static final int MOST_ADDRESSES = 100;
    private static final int LONGEST_SUBJECT = 500;
    private static final Pattern MESSAGE_ID = Pattern.compile("<[^<>\\s]{3,400}>");
    /** Longer lines of a header are cut before they are understood. */
    private static final int LONGEST_HEADER = 20_000;

    private static final int OPENING = 20_000;
    private static final Pattern PASSED_ON =
            Pattern.compile("^\\s*(fwd?|wg|vs|vb|tr|rv|enc|i|doorst|pd|vl)\\s*:", Pattern.CASE_INSENSITIVE);
    private static final Session SESSION;

    static {
        MailLibrary.settle();
        SESSION = Session.getInstance(lenient());
    }

    private MailReader() {}

    private static Properties lenient() {
        var properties = new Properties();
        properties.put("mail.mime.address.strict", "false");
        properties.put("mail.mime.allowutf8", "false");
        return properties;
    }

    /**
     * Reads one mail.
     *
     * @throws MessagingException when not even its header can be read
     */
    static ReadMail read(byte[] raw) throws MessagingException {
        var message = new MimeMessage(SESSION, new ByteArrayInputStream(raw));
        Map<String, List<String>> headers = headers(message);
        MailParts parts = MailParts.of(message, raw);
        List<ReadMail.Address> from = addresses(message, "From");
        Optional<ReadMail.Address> author = from.stream()
                .findFirst()
                .or(() -> addresses(message, "Sender").stream().findFirst());
        var signs = new MailSigns(
                headers,
                author.map(ReadMail.Address::address).orElse(""),
                author.map(ReadMail.Address::name).orElse(""),
                MediaType.of(message).name(),
                parts.statusReport(),
                parts.receipt(),
                opening(parts));
        MailKind kind = MailKinds.of(signs);
        String subject = subject(message);
        return new ReadMail(
                author,
                addresses(message, "Reply-To").stream().findFirst(),
                addresses(message, "To"),
                addresses(message, "Cc"),
                received(message),
                subject,
                identifiers(headers, "message-id").stream().findFirst(),
                references(headers),
                kind,
                kind == MailKind.BOUNCE ? Bounces.read(signs) : Optional.empty(),
                kind.automatic() || signs.wantsNoAutomaticAnswer(),
                PASSED_ON.matcher(subject).find(),
                header(message),
                raw.length,
                parts.words(),
                parts.files(),
                parts.remarks());
    }

    /** The words with which a mail begins, and the header of a mail it returns; read only where machines are told from people. */
    private static String opening(MailParts parts) {
        var opening = new StringBuilder();
        for (ReadMail.Words one : parts.words()) {
            String text = one.text().length() > OPENING ? one.text().substring(0, OPENING) : one.text();
            opening.append(one.formatted() ? withoutTags(text) : text).append('\n');
        }
        return opening.append('\n').append(parts.returned()).toString();
    }

    private static String withoutTags(String html) {
        var plain = new StringBuilder();
        boolean within = false;
        for (int i = 0; i < html.length(); i++) {
            char c = html.charAt(i);
            within |= c == '<';
            plain.append(within ? c == '>' ? "\n" : "" : Character.toString(c));
            within &= c != '>';
        }
        return plain.toString()
                .replace("&lt;", "<")
                .replace("&gt;", ">")
                .replace("&amp;", "&")
                .replace("&nbsp;", " ");
    }

    /** Whether a text has anything to read or to look at. */
    static boolean hasWords(ReadMail.Words words) {
        String text = words.formatted() ? withoutTags(words.text()) : words.text();
        return !text.replace('\u00a0', ' ').isBlank()
                || (words.formatted() && words.text().toLowerCase(Locale.ROOT).contains("<img"));
    }

    static Session session() {
        return SESSION;
    }

    private static Map<String, List<String>> headers(MimeMessage message) throws MessagingException {
        var all = new HashMap<String, List<String>>();
        for (Header header : Collections.list(message.getAllHeaders())) {
            String value = header.getValue() == null ? "" : decode(cut(header.getValue()));
            all.computeIfAbsent(header.getName().strip().toLowerCase(Locale.ROOT), n -> new ArrayList<>())
                    .add(value);
        }
        return all;
    }

    /** The header as rules ask about it. */
    private static String header(MimeMessage message) throws MessagingException {
        var all = new StringBuilder();
        for (Header header : Collections.list(message.getAllHeaders())) {
            if (all.length() < LONGEST_HEADER) {
                String value = header.getValue() == null ? "" : decode(cut(header.getValue()));
                all.append(header.getName()).append(": ").append(value).append('\n');
            }
        }
        return all.toString();
    }

    private static String cut(String line) {
        return line.length() > LONGEST_HEADER ? line.substring(0, LONGEST_HEADER) : line;
    }

    private static String subject(MimeMessage message) throws MessagingException {
        String[] all = message.getHeader("Subject");
        if (all == null || all[0] == null) {
            return "";
        }
        String subject = decode(MimeUtility.unfold(cut(all[0])))
                .replaceAll("[\\p{Cntrl}\\u2028\\u2029]+", " ")
                .strip();
        return subject.length() > LONGEST_SUBJECT ? subject.substring(0, LONGEST_SUBJECT) + "…" : subject;
    }

    /** Decodes encoded words; what is in no known charset stays as it is, what is raw eight-bit is taken as UTF-8 or Latin. */
    static String decode(String value) {
        try {
            return clean(MimeUtility.decodeText(EightBit.asText(MimeUtility.unfold(value))));
        } catch (UnsupportedEncodingException | IllegalArgumentException e) {
            return clean(value);
        }
    }

    /** PostgreSQL keeps no NUL in a text. */
    static String clean(String value) {
        return value.indexOf('\0') < 0 ? value : value.replace("\0", "");
    }

    private static List<ReadMail.Address> addresses(MimeMessage message, String header) {
        var found = new ArrayList<ReadMail.Address>();
        try {
            String[] lines = message.getHeader(header);
            for (String line : lines == null ? new String[0] : lines) {
                found.addAll(parse(EightBit.asText(MimeUtility.unfold(cut(line)))));
            }
        } catch (MessagingException e) {
            return List.of();
        }
        return found.stream().distinct().limit(MOST_ADDRESSES).toList();
    }

    private static List<ReadMail.Address> parse(String line) {
        try {
            var found = new ArrayList<ReadMail.Address>();
            for (InternetAddress one : InternetAddress.parseHeader(line, false)) {
                add(one, found);
            }
            return found.isEmpty() ? scan(line) : found;
        } catch (AddressException | RuntimeException broken) {
            return scan(line);
        }
    }

    /** A group stands for its members. */
    private static void add(InternetAddress one, List<ReadMail.Address> found) throws AddressException {
        if (one.isGroup()) {
            InternetAddress[] members = one.getGroup(false);
            for (InternetAddress member : members == null ? new InternetAddress[0] : members) {
                add(member, found);
            }
            return;
        }
        String name = one.getPersonal() == null ? "" : decode(one.getPersonal());
        MailAddress.of(one.getAddress() == null ? "" : clean(one.getAddress()))
                .ifPresent(address -> found.add(new ReadMail.Address(address.toString(), name.strip())));
    }

    /** The first thing in a broken line that looks like an address. */
    private static List<ReadMail.Address> scan(String line) {
        return MailAddress.in(clean(line), 1).stream()
                .map(address -> new ReadMail.Address(address.toString(), ""))
                .toList();
    }

    private static List<String> received(MimeMessage message) {
        var all = new LinkedHashSet<String>();
        for (String header : List.of("To", "Cc", "Delivered-To", "X-Original-To", "Envelope-To", "Resent-To")) {
            addresses(message, header).forEach(address -> all.add(address.address()));
        }
        return List.copyOf(all);
    }

    private static List<String> references(Map<String, List<String>> headers) {
        var all = new LinkedHashSet<>(identifiers(headers, "in-reply-to"));
        List<String> references = identifiers(headers, "references");
        all.addAll(references.reversed());
        return all.stream().limit(MOST_REFERENCES).toList();
    }

    /** The identifiers of a header, even when several lines or other words are in it. */
    static List<String> identifiers(Map<String, List<String>> headers, String name) {
        return MESSAGE_ID
                .matcher(String.join(" ", headers.getOrDefault(name, List.of())))
                .results()
                .map(found -> found.group())
                .toList();
    }

    /** The name of a file that a part carries, safe to show and to save under; empty when it has none. */
    static String fileName(Part part) {
        String name;
        try {
            name = part.getFileName();
        } catch (MessagingException | IllegalArgumentException e) {
            return "";
        }
        if (name == null) {
            return "";
        }
        String whole = decode(cut(name));
        String plain = whole.substring(Math.max(whole.lastIndexOf('/'), whole.lastIndexOf('\\')) + 1)
                .replaceAll("[\\p{Cntrl}\\u202a-\\u202e\\u2066-\\u2069<>:\"|?*]", "_")
                .strip();
        return plain.length() > 200 ? plain.substring(0, 150) + "…" + plain.substring(plain.length() - 40) : plain;
    }
}
