package rafter.app.arrival.social;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import rafter.app.arrival.providers.Errands;
import rafter.app.arrival.providers.Listener;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLine.Wish;
import rafter.app.arrival.providers.OurLines;
import rafter.app.arrival.providers.Provider;
import rafter.app.arrival.providers.Told;
import rafter.app.arrival.providers.ToldBook;
import rafter.app.house.people.KnownBy;
import rafter.app.platform.LiveNews;
import rafter.core.id.TicketNumber;
import rafter.core.social.Mood;
import rafter.core.social.Moods;
import rafter.core.social.Post;
import rafter.core.social.PostEvent;
import rafter.core.text.Words;

/** Keeps the posts that concern us, as they stand after everything that was told of them, and makes tickets of those that are to be. */
@Component
class PostListener implements Listener {

    private static final int LONGEST = 10_000;
    private static final int LONGEST_HANDLE = 61;

    private final Posts posts;
    private final PostTickets tickets;
    private final SocialRules rules;
    private final OurLines lines;
    private final KnownBy known;
    private final Errands errands;
    private final ObjectProvider<ToldBook> book;
    private final LiveNews news;
    private final Clock clock;
    private final Moods moods = Moods.shipped();

    PostListener(
            Posts posts,
            PostTickets tickets,
            SocialRules rules,
            OurLines lines,
            KnownBy known,
            Errands errands,
            ObjectProvider<ToldBook> book,
            LiveNews news,
            Clock clock) {
        this.posts = posts;
        this.tickets = tickets;
        this.rules = rules;
        this.lines = lines;
        this.known = known;
        this.errands = errands;
        this.book = book;
        this.news = news;
        this.clock = clock;
    }

    @Override
    public Provider.Kind kind() {
        return Provider.Kind.SOCIAL;
    }

    // ------------------------------------------------------------------ reading

    private static PostEvent event(Told told) {
        return switch (told.what()) {
            case "written" -> new PostEvent.Written(told.id(), told.at(), handle(told), cut(told.text("text")));
            case "edited" -> new PostEvent.Edited(told.id(), told.at(), cut(told.text("text")));
            case "deleted" -> new PostEvent.Deleted(told.id(), told.at());
            case "liked" -> new PostEvent.Liked(told.id(), told.at(), told.number("people"));
            default -> throw told.unreadable("nothing is known of “" + told.what() + "” of a post");
        };
    }

    private static String handle(Told told) {
        String handle = told.text("handle").strip();
        if (!handle.startsWith("@") || handle.length() > LONGEST_HANDLE || handle.length() < 2) {
            throw told.unreadable("“handle” is no name of an account");
        }
        return handle;
    }

    private static String cut(String text) {
        String bare = text.strip();
        return bare.length() > LONGEST ? bare.substring(0, LONGEST) : bare;
    }

    @Override
    public boolean take(Provider provider, String subject, List<Told> all) {
        Optional<Post> post = Post.of(all.stream().map(PostListener::event).toList());
        if (post.isEmpty()) {
            return false;
        }
        Told written = all.stream()
                .filter(told -> told.what().equals("written"))
                .findFirst()
                .orElseThrow();
        Optional<Posts.Post> there = posts.find(provider.id(), subject);
        if (there.isEmpty() && !begin(provider, subject, written, post.get())) {
            return false;
        }
        update(provider, posts.find(provider.id(), subject).orElseThrow(), post.get());
        news.posts();
        return true;
    }

    // ------------------------------------------------------------------ keeping

    /** What a post is to us. */
    private record Sorted(Posts.Kind kind, Optional<OurLine> line, Set<Long> searches) {}

    /** Keeps a post that concerns us; false: it does not. */
    private boolean begin(Provider provider, String subject, Told written, Post post) {
        String answers = written.text("answers", "");
        String root = written.text("thread", answers.isEmpty() ? subject : answers);
        Optional<Posts.Post> parent = answers.isEmpty() ? Optional.empty() : posts.find(provider.id(), answers);
        String thread = parent.map(Posts.Post::root).orElse(root);
        Optional<Sorted> sorted = sort(provider, written, post, parent, thread);
        if (sorted.isEmpty()) {
            return false;
        }
        Sorted what = sorted.get();
        Instant now = clock.instant();
        known.seen(
                provider.id(),
                post.author(),
                written.text("name", ""),
                written.text("about", ""),
                written.number("followers", 0),
                now);
        Optional<SocialRules.Mark> noise = noise(provider, what, post);
        if (!what.searches().isEmpty()) {
            rules.found(what.searches());
        }
        Optional<Errands.Sent> sent =
                what.kind() == Posts.Kind.OURS ? errands.sent(written.text("key", "")) : Optional.empty();
        posts.add(fresh(provider, subject, what, answers, thread, post, noise, sent));
        if (what.kind().watched() && noise.isEmpty()) {
            becomeTicket(posts.find(provider.id(), subject).orElseThrow(), what);
        }
        // What answers it may have come before it.
        book.getObject().answersTo(provider.id(), subject);
        return true;
    }

    private Posts.Fresh fresh(
            Provider provider,
            String subject,
            Sorted what,
            String answers,
            String thread,
            Post post,
            Optional<SocialRules.Mark> noise,
            Optional<Errands.Sent> sent) {
        String text = post.versions().getFirst().text();
        Posts.State state =
                !what.kind().watched() ? Posts.State.NONE : noise.isPresent() ? Posts.State.ASIDE : Posts.State.NEW;
        return new Posts.Fresh(
                provider.id(),
                subject,
                what.line().map(OurLine::id),
                what.kind(),
                answers,
                thread,
                post.author(),
                text,
                post.writtenAt(),
                mood(text),
                what.searches(),
                state,
                noise.map(SocialRules.Mark::said).orElse(""),
                sent.flatMap(Errands.Sent::ticket),
                sent.flatMap(Errands.Sent::entry));
    }

    private Optional<SocialRules.Mark> noise(Provider provider, Sorted what, Post post) {
        Optional<SocialRules.Mark> noise = what.kind().watched()
                ? rules.noise(
                        provider.id(), post.author(), post.versions().getLast().text())
                : Optional.empty();
        noise.ifPresent(mark -> rules.tookAside(mark.id()));
        return noise;
    }

    private Optional<Sorted> sort(
            Provider provider, Told written, Post post, Optional<Posts.Post> parent, String thread) {
        List<OurLine> ours = lines.at(provider.id());
        Optional<OurLine> author = of(ours, post.author());
        if (author.isPresent()) {
            return Optional.of(new Sorted(Posts.Kind.OURS, author, Set.of()));
        }
        if (written.is("private")) {
            Optional<OurLine> to = of(ours, written.text("account", ""));
            return to.map(line -> new Sorted(Posts.Kind.PRIVATE, to, Set.of()));
        }
        return sortPublic(provider, post, ours, parent, thread);
    }

    private Optional<Sorted> sortPublic(
            Provider provider, Post post, List<OurLine> ours, Optional<Posts.Post> parent, String thread) {
        String text = post.versions().getLast().text();
        Words words = Words.of(text);
        Set<Long> searches = rules.searches().stream()
                .filter(one -> one.search().finds(words))
                .map(SocialRules.Search::id)
                .collect(Collectors.toSet());
        Optional<OurLine> answered = parent.filter(one -> one.kind() == Posts.Kind.OURS)
                .flatMap(one -> one.line().flatMap(lines::of));
        if (answered.isPresent()) {
            return Optional.of(new Sorted(Posts.Kind.REPLY, answered, searches));
        }
        Optional<OurLine> named =
                ours.stream().filter(line -> names(text, line)).findFirst();
        if (named.isPresent()) {
            return Optional.of(new Sorted(Posts.Kind.MENTION, named, searches));
        }
        if (!searches.isEmpty()) {
            return Optional.of(new Sorted(Posts.Kind.FOUND, Optional.empty(), searches));
        }
        return posts.knowsThread(provider.id(), thread)
                ? Optional.of(new Sorted(Posts.Kind.AROUND, Optional.empty(), Set.of()))
                : Optional.empty();
    }

    private static Optional<OurLine> of(List<OurLine> ours, String handle) {
        return ours.stream()
                .filter(line -> line.address().equalsIgnoreCase(handle))
                .findFirst();
    }

    /** Whether a text names an account, and not only one whose name begins the same. */
    private static boolean names(String text, OurLine line) {
        String bare = text.toLowerCase(Locale.ROOT);
        String handle = line.address().toLowerCase(Locale.ROOT);
        for (int at = bare.indexOf(handle); at >= 0; at = bare.indexOf(handle, at + 1)) {
            int end = at + handle.length();
            boolean begins = at == 0 || !Character.isLetterOrDigit(bare.codePointBefore(at));
            boolean ends = end == bare.length()
                    || !(Character.isLetterOrDigit(bare.codePointAt(end)) || "_-".indexOf(bare.charAt(end)) >= 0);
            if (begins && ends) {
                return true;
            }
        }
        return false;
    }

    private Mood mood(String text) {
        return moods.of(text);
    }

    private void becomeTicket(Posts.Post post, Sorted what) {
        Optional<TicketNumber> there = tickets.goesOnIn(post);
        if (there.isPresent()) {
            tickets.join(post, there.get());
        } else if (opens(post, what)) {
            tickets.open(post);
        }
    }

    private boolean opens(Posts.Post post, Sorted what) {
        boolean byLine = what.line()
                .filter(line -> switch (what.kind()) {
                    case MENTION -> line.says(Wish.MENTION);
                    case REPLY -> line.says(Wish.REPLY);
                    case PRIVATE -> line.says(Wish.PRIVATE);
                    case FOUND, OURS, AROUND -> false;
                })
                .filter(line -> !line.says(Wish.ANNOYED) || !post.publicly() || post.moodKind() == Mood.Kind.BAD)
                .isPresent();
        return byLine
                || rules.searches().stream()
                        .anyMatch(one -> one.opens() && what.searches().contains(one.id()));
    }

    // ------------------------------------------------------------------ later

    private void update(Provider provider, Posts.Post there, Post now) {
        boolean keeps = rules.rules().keepsDeleted();
        // A text that was taken away with its post is not told again, whatever the rules say by now.
        boolean gone = there.deletedAt().isPresent() && there.text().isEmpty();
        String text = gone ? "" : now.text(keeps).orElse("");
        boolean same = text.equals(there.text())
                && now.likes() == there.likes()
                && now.deletedAt().equals(there.deletedAt())
                && now.edited() == there.editedAt().isPresent();
        if (same) {
            return;
        }
        posts.reads(there, now, text, mood(text));
        if (now.deletedAt().isPresent() && !keeps) {
            book.getObject().forgetWords(provider.id(), there.outsideId());
        }
        Posts.Post reads = posts.find(there.id()).orElseThrow();
        boolean shown = !text.equals(there.text()) || !now.deletedAt().equals(there.deletedAt());
        if (shown) {
            tickets.reads(reads);
            reads.ticket().ifPresent(news::ticketChanged);
        }
    }
}
