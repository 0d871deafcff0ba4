package rafter.app.tickets.channel;

import java.util.List;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ModelAttribute;
import rafter.app.house.access.Place;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;

/** The pages on which our addresses on each channel are set: in the menu of the house rules, and in the palette. */
@ControllerAdvice
class ChannelPages implements Place.Source {

    /** One such page, as the menu names it. */
    public record Page(String name, String path) {
        /** By which the menu knows where one is. */
        public String key() {
            return path.substring(path.lastIndexOf('/') + 1);
        }
    }

    private final List<Page> pages;

    ChannelPages(List<Channel> channels) {
        pages = channels.stream()
                .map(one -> new Page(one.settingsName(), one.settings()))
                .distinct()
                .toList();
    }

    @ModelAttribute("channelPages")
    List<Page> pages() {
        return pages;
    }

    @Override
    public List<Place> of(Viewer me) {
        return me.role().has(Right.HOUSE_RULES)
                ? pages.stream()
                        .map(page -> new Place(page.name(), "house rule", page.path()))
                        .toList()
                : List.of();
    }
}
