package rafter.app.arrival.panel;

import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.arrival.chat.ChatLines;
import rafter.app.arrival.chat.ChatSites;
import rafter.app.arrival.chat.Chats;
import rafter.app.arrival.chat.Doorman;
import rafter.app.tickets.writing.Drafts;
import rafter.core.chat.ExpectedWait;

/** Makes what a panel shows. */
@Component
class PanelViews {

    private final Chats chats;
    private final ChatLines chatLines;
    private final ChatSites sites;
    private final Doorman doorman;
    private final Drafts drafts;

    PanelViews(Chats chats, ChatLines chatLines, ChatSites sites, Doorman doorman, Drafts drafts) {
        this.chats = chats;
        this.chatLines = chatLines;
        this.sites = sites;
        this.doorman = doorman;
        this.drafts = drafts;
    }

    /** The chat as it stands, with the lines after one. */
    PanelState of(long id, int after) {
        Chats.Chat chat = chats.find(id).orElseThrow();
        Chats.Standing standing = chats.standing(chat);
        List<PanelState.Line> lines =
                chatLines.after(id, after).stream().map(PanelViews::line).toList();
        return new PanelState(
                lines,
                chat.lastSeq(),
                standing.with(),
                !chat.ended() && !drafts.writing(chat.ticket()).isEmpty(),
                chat.ourRead(),
                standing.place(),
                standing.place() == 0 ? "" : wait(chat, standing.place()),
                chat.ended(),
                standing.rated());
    }

    private String wait(Chats.Chat chat, int place) {
        Optional<ExpectedWait> wait = sites.of(chat.site()).flatMap(site -> doorman.wait(site, place));
        return wait.map(ExpectedWait::words).orElse("");
    }

    private static PanelState.Line line(ChatLines.Line line) {
        return new PanelState.Line(
                line.seq(),
                line.who().name(),
                line.author(),
                line.text(),
                line.at(),
                line.choices(),
                line.press().orElse(0L),
                line.files().stream()
                        .map(file -> new PanelState.File(file.id(), file.name(), file.mediaType(), file.size()))
                        .toList());
    }
}
