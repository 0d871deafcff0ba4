package rafter.app.handout.consults;

import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Component;
import rafter.app.platform.FileSafety;
import rafter.app.platform.Problem;

/** Gives out the files of rooms, only to be saved. */
@Component
class RoomFiles {

    private final Rooms rooms;
    private final Lines lines;
    private final FileSafety safety;

    RoomFiles(Rooms rooms, Lines lines, FileSafety safety) {
        this.rooms = rooms;
        this.lines = lines;
        this.safety = safety;
    }

    /** A file that came into the room. */
    ResponseEntity<byte[]> ofLine(long consult, long file) {
        return give(lines.file(consult, file).orElseThrow(() -> new Problem.NotFound("There is no such file.")));
    }

    /** A file of its ticket. */
    ResponseEntity<byte[]> ofTicket(Consults.Consult consult, long file) {
        return give(rooms.ticketFile(consult, file));
    }

    private ResponseEntity<byte[]> give(Lines.Content file) {
        return safety.toSave(file.content(), file.name());
    }
}
