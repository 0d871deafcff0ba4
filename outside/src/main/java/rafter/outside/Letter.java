package rafter.outside;

import jakarta.activation.DataHandler;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import jakarta.mail.util.ByteArrayDataSource;
import java.io.UnsupportedEncodingException;
import java.time.Instant;
import java.util.Date;
import java.util.List;
import java.util.Optional;
import java.util.Properties;

/**
 * A mail that a made-up person writes.
 *
 * @param name who writes
 * @param from their address
 * @param to where to; several with commas
 * @param cc further addresses; may be empty
 * @param inReplyTo the Message-ID of the mail it answers
 * @param references the Message-IDs of the thread
 */
public record Letter(
        String name,
        String from,
        String to,
        String cc,
        String subject,
        String text,
        Optional<String> inReplyTo,
        List<String> references,
        List<Enclosure> enclosures,
        Instant at) {

    /** A file that goes along. */
    public record Enclosure(String name, String mediaType, byte[] content) {}

    /** The mail as it goes to the server. */
    public MimeMessage mime() throws MessagingException {
        try {
            var mail = new MimeMessage(Session.getInstance(new Properties()));
            mail.setFrom(new InternetAddress(from, name, "UTF-8"));
            mail.setRecipients(Message.RecipientType.TO, InternetAddress.parse(to));
            if (!cc.isBlank()) {
                mail.setRecipients(Message.RecipientType.CC, InternetAddress.parse(cc));
            }
            mail.setSubject(subject, "UTF-8");
            mail.setSentDate(Date.from(at));
            if (inReplyTo.isPresent()) {
                mail.setHeader("In-Reply-To", inReplyTo.get());
            }
            if (!references.isEmpty()) {
                mail.setHeader("References", String.join("\r\n ", references));
            }
            if (enclosures.isEmpty()) {
                mail.setText(text, "UTF-8");
            } else {
                mail.setContent(withEnclosures());
            }
            mail.saveChanges();
            return mail;
        } catch (UnsupportedEncodingException e) {
            throw new IllegalStateException("every Java has UTF-8", e);
        }
    }

    private MimeMultipart withEnclosures() throws MessagingException {
        var all = new MimeMultipart("mixed");
        var words = new MimeBodyPart();
        words.setText(text, "UTF-8");
        all.addBodyPart(words);
        for (Enclosure enclosure : enclosures) {
            var part = new MimeBodyPart();
            part.setDataHandler(new DataHandler(new ByteArrayDataSource(enclosure.content(), enclosure.mediaType())));
            part.setFileName(enclosure.name());
            all.addBodyPart(part);
        }
        return all;
    }
}
