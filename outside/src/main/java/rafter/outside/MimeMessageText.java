package rafter.outside;

import jakarta.mail.Address;
import jakarta.mail.BodyPart;
import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.Part;
import jakarta.mail.internet.InternetAddress;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** What a plain mail program shows of a mail. */
public final class MimeMessageText {

    private MimeMessageText() {}

    static String address(Address address) {
        return address instanceof InternetAddress internet ? internet.toUnicodeString() : address.toString();
    }

    /** The plain text of a mail; empty when it has none. */
    public static String plain(Part part) throws MessagingException, IOException {
        if (part.isMimeType("text/plain") && part.getFileName() == null) {
            return String.valueOf(part.getContent());
        }
        if (part.getContent() instanceof Multipart parts) {
            for (int i = 0; i < parts.getCount(); i++) {
                String text = plain(parts.getBodyPart(i));
                if (!text.isEmpty()) {
                    return text;
                }
            }
        }
        return "";
    }

    /** The parts of a mail that are files, in order. */
    static List<Part> files(Part part) throws MessagingException, IOException {
        var files = new ArrayList<Part>();
        if (part.getContent() instanceof Multipart parts) {
            for (int i = 0; i < parts.getCount(); i++) {
                BodyPart child = parts.getBodyPart(i);
                files.addAll(files(child));
            }
        } else if (part.getFileName() != null) {
            files.add(part);
        }
        return files;
    }
}
