package rafter.app.arrival.providers;

import static rafter.database.Tables.PROVIDER_LINE;

import java.time.Clock;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.text.Phone;
import rafter.database.tables.records.ProviderLineRecord;

/** Our numbers and accounts at providers. */
@Component
public class OurLines {

    private static final String KEPT = " Nothing was saved; what you typed is still here.";
    private static final int LONGEST = 60;
    private static final Duration LONGEST_AFTER = Duration.ofMinutes(30);

    private final DSLContext sql;
    private final Providers providers;
    private final Audit audit;
    private final Guard guard;
    private final Clock clock;
    private final BrieflyCached<List<OurLine>> current = new BrieflyCached<>(Duration.ofSeconds(1), this::look);

    OurLines(DSLContext sql, Providers providers, Audit audit, Guard guard, Clock clock) {
        this.sql = sql;
        this.providers = providers;
        this.audit = audit;
        this.guard = guard;
        this.clock = clock;
    }

    private List<OurLine> look() {
        return sql.selectFrom(PROVIDER_LINE)
                .where(PROVIDER_LINE.REMOVED_AT.isNull())
                .orderBy(PROVIDER_LINE.NAME)
                .fetch(OurLines::line);
    }

    private static OurLine line(ProviderLineRecord r) {
        return new OurLine(
                r.getId(),
                r.getProviderId(),
                r.getAddress(),
                r.getName(),
                Optional.ofNullable(r.getTeamId()),
                Arrays.stream(r.getSays()).map(OurLine.Wish::valueOf).collect(Collectors.toSet()),
                Duration.ofSeconds(r.getAfterSeconds()),
                r.getVersion());
    }

    /** Those at providers of a kind. */
    public List<OurLine> all(Provider.Kind kind) {
        return current.get().stream()
                .filter(line -> providers
                        .of(line.provider())
                        .filter(provider -> provider.kind() == kind)
                        .isPresent())
                .toList();
    }

    /** Those at a provider. */
    public List<OurLine> at(long provider) {
        return current.get().stream()
                .filter(line -> line.provider() == provider)
                .toList();
    }

    /** The one that a provider means, letter case and spaces aside. */
    public Optional<OurLine> at(long provider, String address) {
        String wanted = bare(address);
        return at(provider).stream()
                .filter(line -> bare(line.address()).equals(wanted))
                .findFirst();
    }

    private static String bare(String address) {
        return address.replace(" ", "").toLowerCase(Locale.ROOT);
    }

    /** One of them, also when it is removed: what came by it stays. */
    public Optional<OurLine> of(long id) {
        return current.get().stream()
                .filter(line -> line.id() == id)
                .findFirst()
                .or(() -> sql.selectFrom(PROVIDER_LINE)
                        .where(PROVIDER_LINE.ID.eq(id))
                        .fetchOptional(OurLines::line));
    }

    /**
     * Saves one.
     *
     * @param line id zero: a new one
     * @throws Problem.Invalid when something is wrong with it
     * @throws Problem.Stale when somebody changed it since
     */
    @Transactional
    public long save(OurLine line, PersonId by) {
        guard.houseRules(by);
        check(line);
        var row = new ProviderLineRecord();
        row.setProviderId(line.provider());
        row.setAddress(line.address().strip());
        row.setName(line.name().strip());
        row.setTeamId(line.team().orElse(null));
        row.setSays(line.says().stream().map(Enum::name).sorted().toArray(String[]::new));
        row.setAfterSeconds((int) line.after().toSeconds());
        row.setVersion(line.version() + 1);
        try {
            long id = line.id() == 0
                    ? sql.insertInto(PROVIDER_LINE)
                            .set(row)
                            .returning(PROVIDER_LINE.ID)
                            .fetchSingle(PROVIDER_LINE.ID)
                    : changed(line, row);
            audit.note(by, "saved our address “" + line.address().strip() + "”", "");
            current.forget();
            return id;
        } catch (DuplicateKeyException e) {
            throw new Problem.Invalid("“" + line.address().strip() + "” is there already." + KEPT);
        }
    }

    private long changed(OurLine line, ProviderLineRecord row) {
        int changed = sql.update(PROVIDER_LINE)
                .set(row)
                .where(PROVIDER_LINE.ID.eq(line.id()))
                .and(PROVIDER_LINE.VERSION.eq(line.version()))
                .and(PROVIDER_LINE.REMOVED_AT.isNull())
                .execute();
        if (changed == 0) {
            throw new Problem.Stale("Somebody changed this while you were editing." + KEPT);
        }
        return line.id();
    }

    private void check(OurLine line) {
        Provider provider = providers
                .of(line.provider())
                .orElseThrow(() -> new Problem.Invalid("That provider is not there any more." + KEPT));
        boolean call = provider.kind() == Provider.Kind.TELEPHONE;
        boolean fits = call
                ? Phone.of(line.address()).isPresent()
                : line.address().strip().matches("@[A-Za-z0-9._-]{1,60}");
        if (!fits) {
            throw new Problem.Invalid((call
                            ? "Write the number with digits, such as +999 32 960 100."
                            : "Write the name of the account as the network does, such as @ferries.")
                    + KEPT);
        }
        if (line.name().isBlank() || line.name().strip().length() > LONGEST) {
            throw new Problem.Invalid("Give it a name of at most " + LONGEST + " letters." + KEPT);
        }
        if (line.after().isNegative() || line.after().compareTo(LONGEST_AFTER) > 0) {
            throw new Problem.Invalid("After a call somebody is free again within half an hour at most." + KEPT);
        }
    }

    /** Takes one away; what came by it stays. */
    @Transactional
    public void remove(long id, PersonId by) {
        guard.houseRules(by);
        removed(id, true);
        audit.note(by, "removed one of our addresses", Long.toString(id));
    }

    /** Brings one back that was taken away. */
    @Transactional
    public void bringBack(long id, PersonId by) {
        guard.houseRules(by);
        removed(id, false);
        audit.note(by, "brought one of our addresses back", Long.toString(id));
    }

    private void removed(long id, boolean gone) {
        sql.update(PROVIDER_LINE)
                .set(PROVIDER_LINE.REMOVED_AT, gone ? clock.instant() : null)
                .where(PROVIDER_LINE.ID.eq(id))
                .execute();
        current.forget();
    }
}
