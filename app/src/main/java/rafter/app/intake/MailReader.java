package rafter.app.intake;

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
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import rafter.app.people.Contacts;
import rafter.app.platform.SafeHtml;
import rafter.core.text.MailKind;
import rafter.core.text.MailKinds;

/**
 * Understands a mail from its bytes, as far as it can be understood. Whatever is broken in it is left out and remarked upon;
 * only what cannot be read as a mail at all is refused.
 */
final class MailReader {

    private static final int MOST_REFERENCES = 50;
    private static final int MOST_ADDRESSES = 100;
    private static final int LONGEST_SUBJECT = 500;
    private static final Pattern MESSAGE_ID = Pattern.compile("<[^<>\\s]{3,400}>");
    private static final Pattern LOOKS_LIKE_ADDRESS = Pattern.compile("[^@\\s<>\",;]+@[^@\\s<>\",;]+");
    private static final Session SESSION = Session.getInstance(lenient());

    static {
        // The library reads these from the system only. Told its provider, it does not search the class path for it each time.
        System.setProperty("jakarta.mail.util.StreamProvider", "org.eclipse.angus.mail.util.MailStreamProvider");
        System.setProperty("mail.mime.decodetext.strict", "false");
        System.setProperty("mail.mime.parameters.strict", "false");
        System.setProperty("mail.mime.base64.ignoreerrors", "true");
        System.setProperty("mail.mime.uudecode.ignoreerrors", "true");
        System.setProperty("mail.mime.uudecode.ignoremissingbeginend", "true");
        System.setProperty("mail.mime.ignoreunknownencoding", "true");
        System.setProperty("mail.mime.multipart.allowempty", "true");
        System.setProperty("mail.mime.multipart.ignoreexistingboundaryparameter", "false");
        System.setProperty("mail.mime.multipart.ignoremissingboundaryparameter", "true");
        System.setProperty("mail.mime.multipart.ignoremissingendboundary", "true");
        System.setProperty("mail.mime.decodefilename", "true");
        System.setProperty("mail.mime.decodeparameters", "true");
    }

    private MailReader() {}

    private static Properties lenient() {
        var properties = new Properties();
        properties.put("mail.mime.address.strict", "false");
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
        Optional<ReadMail.Address> author = from.stream().findFirst().or(() -> addresses(message, "Sender").stream().findFirst());
        String sender = author.map(ReadMail.Address::address).orElse("");
        MailKind kind = MailKinds.of(headers, sender, mediaType(message), parts.hasDeliveryReport());
        List<String> remarks = parts.remarks();
        return new ReadMail(
                author,
                addresses(message, "Reply-To").stream().findFirst(),
                addresses(message, "To"),
                addresses(message, "Cc"),
                received(message),
                subject(message),
                identifiers(headers, "message-id").stream().findFirst(),
                references(headers),
                kind,
                kind == MailKind.BOUNCE ? parts.returnedMessageId() : Optional.empty(),
                parts.html(),
                parts.text().orElseGet(() -> parts.html().map(SafeHtml::toText).orElse("")),
                parts.files(),
                remarks);
    }

    private static Map<String, List<String>> headers(MimeMessage message) throws MessagingException {
        var all = new HashMap<String, List<String>>();
        for (Header header : Collections.list(message.getAllHeaders())) {
            String value = header.getValue() == null ? "" : decode(header.getValue());
            all.computeIfAbsent(header.getName().strip().toLowerCase(Locale.ROOT), n -> new ArrayList<>()).add(value);
        }
        return all;
    }

    private static String mediaType(MimeMessage message) throws MessagingException {
        String type = message.getContentType();
        int end = type.indexOf(';');
        return (end < 0 ? type : type.substring(0, end)).strip().toLowerCase(Locale.ROOT);
    }

    private static String subject(MimeMessage message) throws MessagingException {
        String[] all = message.getHeader("Subject");
        if (all == null || all[0] == null) {
            return "";
        }
        String subject = decode(MimeUtility.unfold(all[0])).replaceAll("[\\p{Cntrl}\\u2028\\u2029]+", " ").strip();
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
                found.addAll(parse(EightBit.asText(MimeUtility.unfold(line))));
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
                if (one.getAddress() != null && LOOKS_LIKE_ADDRESS.matcher(one.getAddress()).matches()) {
                    String name = one.getPersonal() == null ? "" : decode(one.getPersonal());
                    found.add(new ReadMail.Address(Contacts.normal(clean(one.getAddress())), name.strip()));
                }
            }
            return found.isEmpty() ? scan(line) : found;
        } catch (AddressException broken) {
            return scan(line);
        }
    }

    /** The first thing in a broken line that looks like an address. */
    private static List<ReadMail.Address> scan(String line) {
        Matcher found = LOOKS_LIKE_ADDRESS.matcher(line);
        return found.find() ? List.of(new ReadMail.Address(Contacts.normal(clean(found.group())), "")) : List.of();
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
        String plain = decode(name).replaceAll(".*[/\\\\]", "").replaceAll("[\\p{Cntrl}\\u202a-\\u202e\\u2066-\\u2069<>:\"|?*]", "_").strip();
        return plain.length() > 200 ? plain.substring(0, 150) + "…" + plain.substring(plain.length() - 40) : plain;
    }
}
