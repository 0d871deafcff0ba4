package rafter.app.arrival.panel;

import java.util.List;
import rafter.app.arrival.chat.Chats;
import rafter.core.chat.Opener;

/**
 * What the page within a panel begins with.
 *
 * @param word the site’s
 * @param token of the chat that goes on; blank: there is none yet
 * @param ours who we are
 * @param closed why no chat can be begun; blank: one can
 * @param place the page that the panel is on
 * @param invite the invitation that was followed; 0: none
 */
record PanelPage(
        String word,
        String token,
        String ours,
        String greeting,
        List<Opener> openers,
        String closed,
        Chats.Place place,
        long invite) {}
