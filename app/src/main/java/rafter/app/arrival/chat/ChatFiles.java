package rafter.app.arrival.chat;

import static rafter.database.Tables.ATTACHMENT;

import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Component;
import rafter.app.platform.FileSafety;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;

/** Files of chats, for the customer: to be saved, never shown. */
@Component
public class ChatFiles {

    private final ChatLines chatLines;
    private final Files files;
    private final FileSafety safety;

    ChatFiles(ChatLines chatLines, Files files, FileSafety safety) {
        this.chatLines = chatLines;
        this.files = files;
        this.safety = safety;
    }

    /** A file that was said in a chat. */
    public ResponseEntity<byte[]> of(Chats.Chat chat, long file) {
        var found = chatLines
                .file(chat.id(), file)
                .orElseThrow(() -> new Problem.NotFound("There is no such file in this chat."));
        return safety.toSave(files.read(found.get(ATTACHMENT.SHA256)), found.get(ATTACHMENT.NAME));
    }
}
