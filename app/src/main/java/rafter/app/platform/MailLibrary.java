package rafter.app.platform;

import java.util.Map;

/**
 * How leniently the mail library reads. It takes these settings from the system, and most of them only once, when the first of its classes is
 * loaded; so they are made before anything else.
 */
public final class MailLibrary {

    private static final Map<String, String> SETTINGS = Map.ofEntries(
            // Told its provider, it does not search the class path for it each time.
            Map.entry("jakarta.mail.util.StreamProvider", "org.eclipse.angus.mail.util.MailStreamProvider"),
            // Bytes of a header stay bytes, of which we find out the charset ourselves.
            Map.entry("mail.mime.allowutf8", "false"),
            Map.entry("mail.mime.decodetext.strict", "false"),
            Map.entry("mail.mime.parameters.strict", "false"),
            Map.entry("mail.mime.base64.ignoreerrors", "true"),
            Map.entry("mail.mime.uudecode.ignoreerrors", "true"),
            Map.entry("mail.mime.uudecode.ignoremissingbeginend", "true"),
            Map.entry("mail.mime.ignoreunknownencoding", "true"),
            Map.entry("mail.mime.multipart.allowempty", "true"),
            Map.entry("mail.mime.multipart.ignoremissingboundaryparameter", "true"),
            Map.entry("mail.mime.multipart.ignoremissingendboundary", "true"),
            Map.entry("mail.mime.decodefilename", "true"),
            Map.entry("mail.mime.decodeparameters", "true"),
            Map.entry("mail.mime.encodeparameters", "true"));

    private MailLibrary() {}

    /** Makes the settings; those that the system has already stay. */
    public static void settle() {
        SETTINGS.forEach((name, value) -> {
            if (System.getProperty(name) == null) {
                System.setProperty(name, value);
            }
        });
    }
}
