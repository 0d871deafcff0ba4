package rafter.app.platform;

import java.util.ArrayDeque;
import java.util.HexFormat;
import java.util.LinkedHashSet;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ThreadLocalRandom;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * The news for pages that this node heard of late, each with a mark. A page carries the mark of when it was made, and is told what came after it
 * when it begins to listen: so it is made once, and not again for fear that something was missed in between.
 */
@Component
public class RecentNews {

    /** Of a busy floor those of half a minute; a page listens within a second or two. */
    private static final int KEPT = 1_000;
    /** What concerns the nodes and no page. */
    private static final Set<String> AMONG_NODES = Set.of("sessions", "mail", "mailboxes", "told", "errand");

    private static final Pattern MARK = Pattern.compile("([0-9a-f]{8})-(\\d{1,18})");

    /** Marks of another node, or of this one before it was started anew, say nothing here. */
    private final String node =
            HexFormat.of().toHexDigits(ThreadLocalRandom.current().nextInt());

    private final ArrayDeque<News> latest = new ArrayDeque<>();
    private long count;

    /** The mark of now. What is read from here on knows all that came before it. */
    public synchronized String mark() {
        return node + "-" + count;
    }

    /** Keeps a piece of news; whether it is for pages. */
    synchronized boolean heard(News news) {
        if (AMONG_NODES.contains(news.topic())) {
            return false;
        }
        if (latest.size() == KEPT) {
            latest.removeFirst();
        }
        latest.addLast(news);
        count++;
        return true;
    }

    /** What came after a mark, each thing once, oldest first; nothing when that is not known here, or any more. */
    synchronized Optional<Set<News>> since(String mark) {
        Matcher said = MARK.matcher(mark);
        if (!said.matches() || !said.group(1).equals(node)) {
            return Optional.empty();
        }
        long missed = count - Long.parseLong(said.group(2));
        if (missed < 0 || missed > latest.size()) {
            return Optional.empty();
        }
        return Optional.of(latest.stream()
                .skip(latest.size() - missed)
                .collect(Collectors.toCollection(LinkedHashSet<News>::new)));
    }
}
