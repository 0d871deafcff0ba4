package rafter.app.tickets.files;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.web.multipart.MultipartFile;
import rafter.app.platform.FileSafety;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.platform.Uploaded;
import rafter.app.tickets.acts.NewMessage;

/** Files that are uploaded with words of a talk. */
@Component
public class Uploads {

    static final int MOST = 10;
    static final long MOST_BYTES = 25_000_000;

    private final Files files;
    private final FileSafety safety;

    Uploads(Files files, FileSafety safety) {
        this.files = files;
        this.safety = safety;
    }

    /**
     * Keeps them.
     *
     * @param sent what a form brought; a field that was left empty brings a file without a name
     * @throws Problem.Invalid when they are too many or too large, or something was found in one
     */
    public List<NewMessage.FileRef> keep(List<MultipartFile> sent) throws IOException {
        List<MultipartFile> all = sent.stream().filter(one -> !one.isEmpty()).toList();
        long size = all.stream().mapToLong(MultipartFile::getSize).sum();
        if (all.size() > MOST || size > MOST_BYTES) {
            throw new Problem.Invalid("At most " + MOST + " files of " + Say.size(MOST_BYTES)
                    + " in all go along at once. Nothing was said; what you wrote is still here.");
        }
        var kept = new ArrayList<NewMessage.FileRef>();
        for (MultipartFile one : all) {
            byte[] content = one.getBytes();
            String name = Uploaded.name(one);
            safety.insist(content, name);
            kept.add(new NewMessage.FileRef(files.keepOnceMore(content), name, Uploaded.type(one), content.length, ""));
        }
        return kept;
    }
}
