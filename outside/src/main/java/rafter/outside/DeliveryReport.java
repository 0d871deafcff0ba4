package rafter.outside;

import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import java.util.Collections;
import java.util.Date;
import java.util.Properties;

/** The report of a mail server that could not deliver (RFC 3464). */
final class DeliveryReport {

    private DeliveryReport() {}

    static MimeMessage of(MimeMessage returned, String sender, String failed) throws MessagingException {
        var report = new MimeMessage(Session.getInstance(new Properties()));
        report.setFrom(new InternetAddress("mailer-daemon@" + failed.substring(failed.indexOf('@') + 1)));
        report.setRecipient(Message.RecipientType.TO, new InternetAddress(sender));
        report.setSubject("Undelivered mail returned to sender");
        report.setSentDate(new Date());
        report.setHeader("Auto-Submitted", "auto-replied");
        var parts = new MimeMultipart("report; report-type=delivery-status");
        parts.addBodyPart(text("There is no mailbox " + failed + " here. Your mail was not delivered.", "text/plain"));
        parts.addBodyPart(text(
                "Reporting-MTA: dns; outside.example\r\n\r\nFinal-Recipient: rfc822; " + failed
                        + "\r\nAction: failed\r\nStatus: 5.1.1\r\nDiagnostic-Code: smtp; 550 no such mailbox\r\n",
                "message/delivery-status"));
        parts.addBodyPart(text(
                String.join("\r\n", Collections.list(returned.getAllHeaderLines())) + "\r\n", "text/rfc822-headers"));
        report.setContent(parts);
        report.saveChanges();
        report.setHeader("Return-Path", "<>");
        return report;
    }

    private static MimeBodyPart text(String text, String type) throws MessagingException {
        var part = new MimeBodyPart();
        part.setText(text, "UTF-8");
        part.setHeader("Content-Type", type + (type.equals("text/plain") ? "; charset=UTF-8" : ""));
        return part;
    }
}
