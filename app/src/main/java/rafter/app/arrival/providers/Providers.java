package rafter.app.arrival.providers;

import static rafter.database.Tables.PROVIDER;

import java.net.URI;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.app.platform.Secrets;
import rafter.core.id.PersonId;
import rafter.database.tables.records.ProviderRecord;

/** The outside services that this installation knows. */
@Component
public class Providers {

    private static final String KEPT = " Nothing was saved; what you typed is still here.";
    private static final int LONGEST = 60;
    private static final int SECRET = 24;
    private static final int SHORTEST_SECRET = 16;
    private static final int LONGEST_SECRET = 200;

    private final DSLContext sql;
    private final Secrets secrets;
    private final Audit audit;
    private final Guard guard;
    private final Clock clock;
    private final BrieflyCached<List<Provider>> current = new BrieflyCached<>(Duration.ofSeconds(1), this::look);

    Providers(DSLContext sql, Secrets secrets, Audit audit, Guard guard, Clock clock) {
        this.sql = sql;
        this.secrets = secrets;
        this.audit = audit;
        this.guard = guard;
        this.clock = clock;
    }

    private List<Provider> look() {
        return sql.selectFrom(PROVIDER)
                .where(PROVIDER.REMOVED_AT.isNull())
                .orderBy(PROVIDER.NAME)
                .fetch(Providers::provider);
    }

    private static Provider provider(ProviderRecord r) {
        return new Provider(
                r.getId(),
                Provider.Kind.valueOf(r.getKind()),
                r.getName(),
                r.getWord(),
                r.getAddress(),
                r.getVersion(),
                r.getTrouble(),
                Optional.ofNullable(r.getTroubleAt()));
    }

    /** Those of a kind; a change of another node's is seen within a second. */
    public List<Provider> all(Provider.Kind kind) {
        return current.get().stream().filter(one -> one.kind() == kind).toList();
    }

    /** The one whose address with us is called so. */
    public Optional<Provider> of(String word) {
        return current.get().stream().filter(one -> one.word().equals(word)).findFirst();
    }

    /** One of them; nothing when it is gone. */
    public Optional<Provider> of(long id) {
        return current.get().stream().filter(one -> one.id() == id).findFirst();
    }

    /** With what both sides sign, as text. */
    String secret(long provider) {
        return secrets.open(sql.select(PROVIDER.SECRET)
                .from(PROVIDER)
                .where(PROVIDER.ID.eq(provider))
                .fetchSingle(PROVIDER.SECRET));
    }

    /** The same, for whoever sets the other side up. */
    public String secret(long provider, PersonId by) {
        guard.houseRules(by);
        return secret(provider);
    }

    /**
     * Saves one.
     *
     * @param one id zero: a new one, with a secret of its own
     * @throws Problem.Invalid when something is wrong with it
     * @throws Problem.Stale when somebody changed it since
     */
    @Transactional
    public long save(Provider one, PersonId by) {
        return save(one, Optional.empty(), by);
    }

    /**
     * Saves one.
     *
     * @param secret with what both sides sign from now on; nothing: it stays, or a new one gets one of its own
     * @throws Problem.Invalid when something is wrong with it
     * @throws Problem.Stale when somebody changed it since
     */
    @Transactional
    public long save(Provider one, Optional<String> secret, PersonId by) {
        guard.houseRules(by);
        check(one);
        if (secret.filter(words -> words.length() < SHORTEST_SECRET || words.length() > LONGEST_SECRET)
                .isPresent()) {
            throw new Problem.Invalid(
                    "A secret has from " + SHORTEST_SECRET + " to " + LONGEST_SECRET + " letters." + KEPT);
        }
        try {
            long id = one.id() == 0 ? added(one, secret) : changed(one);
            secret.ifPresent(words -> sql.update(PROVIDER)
                    .set(PROVIDER.SECRET, secrets.seal(words))
                    .where(PROVIDER.ID.eq(id))
                    .execute());
            audit.note(by, "saved the provider “" + one.name().strip() + "”", "");
            current.forget();
            return id;
        } catch (DuplicateKeyException e) {
            throw new Problem.Invalid("Another provider is called “" + one.word() + "” in its address." + KEPT);
        }
    }

    private long added(Provider one, Optional<String> secret) {
        return sql.insertInto(PROVIDER)
                .set(PROVIDER.KIND, one.kind().name())
                .set(PROVIDER.NAME, one.name().strip())
                .set(PROVIDER.WORD, one.word())
                .set(PROVIDER.ADDRESS, one.address())
                .set(PROVIDER.SECRET, secrets.seal(secret.orElseGet(() -> secrets.randomWord(SECRET))))
                .set(PROVIDER.VERSION, 1)
                .returning(PROVIDER.ID)
                .fetchSingle(PROVIDER.ID);
    }

    private long changed(Provider one) {
        int changed = sql.update(PROVIDER)
                .set(PROVIDER.NAME, one.name().strip())
                .set(PROVIDER.WORD, one.word())
                .set(PROVIDER.ADDRESS, one.address())
                .set(PROVIDER.VERSION, one.version() + 1)
                .where(PROVIDER.ID.eq(one.id()))
                .and(PROVIDER.VERSION.eq(one.version()))
                .and(PROVIDER.REMOVED_AT.isNull())
                .execute();
        if (changed == 0) {
            throw new Problem.Stale("Somebody changed this provider while you were editing." + KEPT);
        }
        return one.id();
    }

    private static void check(Provider one) {
        if (one.name().isBlank() || one.name().strip().length() > LONGEST) {
            throw new Problem.Invalid("Give the provider a name of at most " + LONGEST + " letters." + KEPT);
        }
        if (!one.word().matches("[a-z][a-z0-9-]{1,39}")) {
            throw new Problem.Invalid(
                    "The word in its address has two to forty small letters, figures and hyphens, a letter first."
                            + KEPT);
        }
        if (!one.address().isEmpty() && !isWeb(one.address())) {
            throw new Problem.Invalid(
                    "Write where it is told what to do, such as https://exchange.internal/api, or nothing." + KEPT);
        }
    }

    private static boolean isWeb(String address) {
        try {
            URI uri = URI.create(address);
            boolean web = "https".equals(uri.getScheme()) || "http".equals(uri.getScheme());
            return web && uri.getHost() != null && uri.getUserInfo() == null;
        } catch (IllegalArgumentException e) {
            return false;
        }
    }

    /** Takes one away: nothing that it tells is taken any more. */
    @Transactional
    public void remove(long id, PersonId by) {
        guard.houseRules(by);
        removed(id, true);
        audit.note(by, "removed a provider", Long.toString(id));
    }

    /** Brings one back that was taken away. */
    @Transactional
    public void bringBack(long id, PersonId by) {
        guard.houseRules(by);
        removed(id, false);
        audit.note(by, "brought a provider back", Long.toString(id));
    }

    private void removed(long id, boolean gone) {
        sql.update(PROVIDER)
                .set(PROVIDER.REMOVED_AT, gone ? clock.instant() : null)
                .where(PROVIDER.ID.eq(id))
                .execute();
        current.forget();
    }

    /** What went wrong when it was told something; blank: it works. */
    void trouble(long id, String words) {
        int changed = sql.update(PROVIDER)
                .set(PROVIDER.TROUBLE, words)
                .set(PROVIDER.TROUBLE_AT, words.isEmpty() ? null : clock.instant())
                .where(PROVIDER.ID.eq(id))
                .and(PROVIDER.TROUBLE.ne(words))
                .execute();
        if (changed > 0) {
            current.forget();
        }
    }
}
