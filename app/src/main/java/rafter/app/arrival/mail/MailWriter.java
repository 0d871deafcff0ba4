package rafter.app.arrival.mail;

import jakarta.activation.DataHandler;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import jakarta.mail.util.ByteArrayDataSource;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UnsupportedEncodingException;
import java.util.Date;
import java.util.List;
import java.util.Properties;
import rafter.app.tickets.channel.Outgoing;

/** Makes the bytes of our mail. */
final class MailWriter {

    private static final String UTF_8 = "UTF-8";
    /** Making a session reads the library's provider files, so one serves all. */
    private static final Session SESSION = Session.getInstance(new Properties());

    private MailWriter() {}

    /** A message that keeps the Message-ID it was given. */
    private static final class Identified extends MimeMessage {
        private final String id;

        Identified(String id) {
            super(SESSION);
            this.id = id;
        }

        @Override
        protected void updateMessageID() throws MessagingException {
            setHeader("Message-ID", id);
        }
    }

    static byte[] write(Outgoing mail, String replyTo) {
        try {
            var message = new Identified(mail.identity());
            address(message, mail, replyTo);
            thread(message, mail);
            message.setSubject(mail.subject().replaceAll("[\\r\\n]+", " "), UTF_8);
            message.setSentDate(Date.from(mail.at()));
            if (mail.automatic()) {
                message.setHeader("Auto-Submitted", "auto-replied");
                message.setHeader("X-Auto-Response-Suppress", "All");
            }
            message.setContent(body(mail));
            message.saveChanges();
            var out = new ByteArrayOutputStream();
            message.writeTo(out);
            return out.toByteArray();
        } catch (MessagingException | IOException e) {
            throw new IllegalStateException("cannot write mail " + mail.identity(), e);
        }
    }

    private static void address(MimeMessage message, Outgoing mail, String replyTo)
            throws MessagingException, UnsupportedEncodingException {
        message.setFrom(new InternetAddress(mail.from().address(), mail.senderName(), UTF_8));
        message.setReplyTo(
                new InternetAddress[] {new InternetAddress(replyTo, mail.from().name(), UTF_8)});
        message.setRecipients(Message.RecipientType.TO, addresses(mail.to()));
        if (!mail.copies().isEmpty()) {
            message.setRecipients(Message.RecipientType.CC, addresses(mail.copies()));
        }
    }

    /** Addresses as they stand: there are mailboxes whose names break the rules that the library would hold them to. */
    static InternetAddress[] addresses(List<String> all) {
        var found = new InternetAddress[all.size()];
        for (int i = 0; i < found.length; i++) {
            found[i] = new InternetAddress();
            found[i].setAddress(all.get(i));
        }
        return found;
    }

    private static void thread(MimeMessage message, Outgoing mail) throws MessagingException {
        if (mail.answers().isPresent()) {
            message.setHeader("In-Reply-To", mail.answers().get());
        }
        if (!mail.thread().isEmpty()) {
            message.setHeader("References", String.join("\r\n ", mail.thread()));
        }
    }

    private static MimeMultipart body(Outgoing mail) throws MessagingException {
        var both = new MimeMultipart("alternative");
        both.addBodyPart(text(mail.text(), "plain"));
        List<Outgoing.FilePart> pictures = mail.files().stream()
                .filter(file -> !file.contentId().isEmpty())
                .toList();
        both.addBodyPart(pictures.isEmpty() ? text(mail.html(), "html") : withPictures(mail.html(), pictures));
        List<Outgoing.FilePart> attached =
                mail.files().stream().filter(file -> file.contentId().isEmpty()).toList();
        if (attached.isEmpty()) {
            return both;
        }
        var mixed = new MimeMultipart("mixed");
        var words = new MimeBodyPart();
        words.setContent(both);
        mixed.addBodyPart(words);
        for (Outgoing.FilePart file : attached) {
            mixed.addBodyPart(file(file));
        }
        return mixed;
    }

    /** Formatted text and the pictures within it (RFC 2387). */
    private static MimeBodyPart withPictures(String html, List<Outgoing.FilePart> pictures) throws MessagingException {
        var related = new MimeMultipart("related");
        related.addBodyPart(text(html, "html"));
        for (Outgoing.FilePart picture : pictures) {
            MimeBodyPart part = file(picture);
            part.setDisposition(MimeBodyPart.INLINE);
            part.setContentID("<" + picture.contentId() + ">");
            related.addBodyPart(part);
        }
        var whole = new MimeBodyPart();
        whole.setContent(related);
        return whole;
    }

    private static MimeBodyPart text(String text, String subtype) throws MessagingException {
        var part = new MimeBodyPart();
        part.setText(text, UTF_8, subtype);
        return part;
    }

    private static MimeBodyPart file(Outgoing.FilePart file) throws MessagingException {
        var part = new MimeBodyPart();
        part.setDataHandler(new DataHandler(new ByteArrayDataSource(file.content(), file.mediaType())));
        part.setFileName(file.name());
        part.setDisposition(MimeBodyPart.ATTACHMENT);
        return part;
    }
}
