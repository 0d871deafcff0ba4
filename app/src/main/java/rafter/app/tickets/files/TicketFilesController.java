package rafter.app.tickets.files;

import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.FileSafety;
import rafter.app.platform.Problem;
import rafter.core.id.TicketNumber;

/** The page of a ticket's files. */
@Controller
@RequestMapping("/tickets/{number}/files")
class TicketFilesController {

    private final TicketFiles files;
    private final Previews previews;
    private final FileSafety safety;
    private final Access access;

    TicketFilesController(TicketFiles files, Previews previews, FileSafety safety, Access access) {
        this.files = files;
        this.previews = previews;
        this.safety = safety;
        this.access = access;
    }

    @GetMapping
    String page(@PathVariable TicketNumber number, Model model) {
        model.addAttribute("files", files.of(number, access.require(Right.WORK)));
        model.addAttribute("number", number);
        return "tickets/files/files";
    }

    /** A small picture of a file. */
    @GetMapping("/{id}/preview")
    ResponseEntity<byte[]> preview(@PathVariable TicketNumber number, @PathVariable long id) {
        TicketFiles.Content file = files.content(number, id, access.require(Right.WORK));
        safety.insist(file.bytes(), file.name());
        return previews.of(file)
                .map(png -> ResponseEntity.ok()
                        .contentType(MediaType.IMAGE_PNG)
                        .header("X-Content-Type-Options", "nosniff")
                        .header(HttpHeaders.CACHE_CONTROL, "private, max-age=86400, immutable")
                        .body(png))
                .orElseThrow(() -> new Problem.NotFound("There is no small picture of this file."));
    }
}
