package rafter.core.social;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;

/**
 * A post as it stands after everything that was told of it. It follows from what was told alone, and neither from the order in which that came
 * nor from how often.
 *
 * @param versions its texts, the first one first; more than one when it was edited
 * @param deletedAt when it was deleted, if it was; it never comes back from that
 */
public record Post(String author, Instant writtenAt, List<Version> versions, int likes, Optional<Instant> deletedAt) {

    public Post {
        versions = List.copyOf(versions);
    }

    /** A text, and since when it stood. */
    public record Version(Instant at, String text) {}

    /**
     * The post that was told of. O(n log n).
     *
     * @return nothing as long as nobody has told that it was written
     */
    public static Optional<Post> of(Collection<PostEvent> told) {
        var inOrder = new TreeSet<>(Comparator.comparing(PostEvent::at).thenComparing(PostEvent::id));
        inOrder.addAll(told);
        return inOrder.stream()
                .filter(PostEvent.Written.class::isInstance)
                .map(PostEvent.Written.class::cast)
                .findFirst()
                .map(written -> folded(written, inOrder));
    }

    private static Post folded(PostEvent.Written written, Collection<PostEvent> inOrder) {
        var versions = new ArrayList<Version>();
        versions.add(new Version(written.at(), written.text()));
        int likes = 0;
        Optional<Instant> deleted = Optional.empty();
        for (PostEvent event : inOrder) {
            switch (event) {
                case PostEvent.Written again -> {}
                case PostEvent.Edited edited -> {
                    if (!versions.getLast().text().equals(edited.text())) {
                        versions.add(new Version(edited.at(), edited.text()));
                    }
                }
                case PostEvent.Deleted gone -> deleted = deleted.or(() -> Optional.of(gone.at()));
                case PostEvent.Liked liked -> likes = liked.people();
            }
        }
        return new Post(written.author(), written.at(), versions, likes, deleted);
    }

    /**
     * The text as it is shown to us.
     *
     * @param keepsDeleted whether the workspace still shows what was deleted; else only that it was stays
     * @return nothing of a post that was deleted, where the workspace does not keep it
     */
    public Optional<String> text(boolean keepsDeleted) {
        return deletedAt.isPresent() && !keepsDeleted
                ? Optional.empty()
                : Optional.of(versions.getLast().text());
    }

    /** Whether it reads otherwise than when it was written. */
    public boolean edited() {
        return versions.size() > 1;
    }
}
