package rafter.outside;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import rafter.outside.demo.Cast;
import tools.jackson.databind.JsonNode;

/**
 * A public network with accounts, posts, answers, private messages, likes, deletions and edits, in which somebody can be anybody. A stand-in: no part of
 * Rafter.
 */
final class Gangway extends Played {

    private static final int SHOWN = 60;
    private static final int LONGEST = 300;

    /** A post. */
    static final class Post {
        private final String id;
        private final String handle;
        private final String answers;
        private final String thread;
        private final boolean secret;
        private final String account;
        private String text;
        private boolean edited;
        private boolean gone;
        private boolean hidden;
        private int likes;

        Post(String id, String handle, String text, String answers, String thread, boolean secret, String account) {
            this.id = id;
            this.handle = handle;
            this.text = text;
            this.answers = answers;
            this.thread = thread;
            this.secret = secret;
            this.account = account;
        }

        public String id() {
            return id;
        }

        public String handle() {
            return handle;
        }

        public String text() {
            return gone ? "" : text;
        }

        public String answers() {
            return answers;
        }

        public boolean secret() {
            return secret;
        }

        public String account() {
            return account;
        }

        public boolean edited() {
            return edited;
        }

        public boolean gone() {
            return gone;
        }

        public boolean hidden() {
            return hidden;
        }

        public int likes() {
            return likes;
        }
    }

    private final Map<String, Post> posts = new LinkedHashMap<>();
    private final Map<String, String> done = new LinkedHashMap<>();

    Gangway(Teller teller) {
        super(teller);
    }

    /** The posts, the latest first. */
    synchronized List<Post> posts() {
        return new ArrayList<>(posts.values()).reversed().stream().limit(SHOWN).toList();
    }

    // ------------------------------------------------------------------ what people do

    /** Somebody writes. */
    synchronized String write(String handle, String text, String answers, boolean secret, String account) {
        return write(handle, text, answers, secret, account, "");
    }

    private String write(String handle, String text, String answers, boolean secret, String account, String key) {
        String id = UUID.randomUUID().toString();
        String thread = Optional.ofNullable(posts.get(answers))
                .map(parent -> parent.thread)
                .orElse(id);
        posts.put(id, new Post(id, handle, text, answers, thread, secret, account));
        Optional<Cast.Voice> who = Cast.VOICES.stream()
                .filter(voice -> voice.handle().equals(handle))
                .findFirst();
        var more = new LinkedHashMap<String, Object>();
        more.put("handle", handle);
        more.put("name", who.map(Cast.Voice::name).orElse(handle.substring(1)));
        more.put("about", who.map(Cast.Voice::about).orElse(""));
        more.put("followers", who.map(Cast.Voice::followers).orElse(1));
        more.put("text", text);
        more.put("thread", thread);
        if (!answers.isEmpty()) {
            more.put("answers", answers);
        }
        if (secret) {
            more.put("private", true);
            more.put("account", account);
        }
        if (!key.isEmpty()) {
            more.put("key", key);
        }
        teller().tell(id, "written", more);
        return id;
    }

    /** Who wrote it writes it otherwise. */
    synchronized void edit(String id, String text) {
        find(id).ifPresent(post -> {
            post.text = text;
            post.edited = true;
            teller().tell(id, "edited", Map.of("text", text));
        });
    }

    /** Who wrote it takes it away. */
    synchronized void delete(String id) {
        find(id).ifPresent(post -> {
            post.gone = true;
            teller().tell(id, "deleted", Map.of());
        });
    }

    /** One more likes it. */
    synchronized void like(String id) {
        find(id).ifPresent(post -> {
            post.likes++;
            teller().tell(id, "liked", Map.of("people", post.likes));
        });
    }

    private Optional<Post> find(String id) {
        return Optional.ofNullable(posts.get(id)).filter(post -> !post.gone);
    }

    // ------------------------------------------------------------------ what it is told

    /** Writes for one of its accounts; the same key writes once. */
    synchronized Telephones.Answer told(JsonNode body) {
        if (down()) {
            return new Telephones.Answer(503, "The network is out of order.");
        }
        String key = body.path("key").asString("");
        String text = body.path("text").asString("");
        boolean secret = body.path("private").asBoolean(false);
        if (!secret && text.codePointCount(0, text.length()) > LONGEST) {
            return new Telephones.Answer(422, "A post has at most " + LONGEST + " letters.");
        }
        if (!done.containsKey(key)) {
            String account = body.path("account").asString("");
            String answers = body.path("answers").asString("");
            done.put(key, write(account, text, answers, secret, body.path("to").asString(""), key));
        }
        return Telephones.Answer.DONE;
    }

    /** Hides, shows or takes away a post. */
    synchronized Telephones.Answer told(String id, String what) {
        if (down()) {
            return new Telephones.Answer(503, "The network is out of order.");
        }
        Optional<Post> post = Optional.ofNullable(posts.get(id));
        if (post.isEmpty()) {
            return new Telephones.Answer(404, "There is no such post.");
        }
        switch (what) {
            case "hide" -> post.get().hidden = true;
            case "show" -> post.get().hidden = false;
            case "delete" -> delete(id);
            default -> {
                return new Telephones.Answer(404, "The network does not know how to do that.");
            }
        }
        return Telephones.Answer.DONE;
    }
}
