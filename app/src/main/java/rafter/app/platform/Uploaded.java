package rafter.app.platform;

import java.util.Optional;
import org.springframework.web.multipart.MultipartFile;

/** What a browser says of a file that it sends; it can say anything. */
public final class Uploaded {

    private static final int LONGEST_NAME = 200;

    private Uploaded() {}

    /** Its name without the folders that some browsers tell, and without signs that no name has. */
    public static String name(MultipartFile file) {
        String sent = Optional.ofNullable(file.getOriginalFilename()).orElse("");
        String whole = sent.replace("%22", "\"").replace("%0D", " ").replace("%0A", " ");
        String name = whole.substring(Math.max(whole.lastIndexOf('/'), whole.lastIndexOf('\\')) + 1)
                .replaceAll("\\p{Cntrl}", "_")
                .strip();
        return name.isEmpty() ? "file" : name.length() > LONGEST_NAME ? name.substring(0, LONGEST_NAME) : name;
    }

    /** What kind it says it is; a harmless one where it says nothing usable. */
    public static String type(MultipartFile file) {
        return Optional.ofNullable(file.getContentType())
                .filter(t -> t.matches("[\\w.+-]{1,60}/[\\w.+-]{1,80}"))
                .orElse("application/octet-stream");
    }
}
