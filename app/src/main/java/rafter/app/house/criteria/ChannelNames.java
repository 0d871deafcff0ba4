package rafter.app.house.criteria;

import java.util.SortedMap;

/** The channels that there are, as criteria name them. */
public interface ChannelNames {

    /** What people call each channel, by its key. */
    SortedMap<String, String> channelNames();

    /** Our addresses on all of them, by their ids. */
    SortedMap<String, String> ourAddresses();
}
