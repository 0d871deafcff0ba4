package rafter.app.work.worklist;

import static rafter.database.Tables.LIST_VIEW;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.VIEW_PIN;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Place;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.core.criteria.Asking;
import rafter.core.criteria.CriteriaJson;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.database.tables.records.ListViewRecord;

/** The views that people keep. */
@Component
class Views implements Place.Source {

    /** So many tabs fit beside each other. */
    static final int MOST_PINNED = 10;
    /** As long as a deleted view can be brought back. */
    private static final Duration BROUGHT_BACK_FOR = Duration.ofDays(30);

    private final DSLContext sql;
    private final Persons persons;
    private final Clock clock;

    Views(DSLContext sql, Persons persons, Clock clock) {
        this.sql = sql;
        this.persons = persons;
        this.clock = clock;
    }

    /** The views that a person may see: those that ship first, then by title. */
    List<ListView> visible(Viewer me) {
        return sql.selectFrom(LIST_VIEW)
                .where(mayBeSeenBy(me))
                .orderBy(LIST_VIEW.PERSON_ID.isNotNull(), LIST_VIEW.POSITION, DSL.lower(LIST_VIEW.TITLE))
                .fetch(Views::view);
    }

    @Override
    public List<Place> of(Viewer me) {
        return visible(me).stream()
                .map(view -> new Place(view.title(), "view", "/worklist?view=" + view.key()))
                .toList();
    }

    private Condition mayBeSeenBy(Viewer me) {
        Set<TeamId> teams = persons.teamsOf(me.id());
        return LIST_VIEW
                .DELETED_AT
                .isNull()
                .and(LIST_VIEW
                        .PERSON_ID
                        .eq(me.id())
                        .or(LIST_VIEW.SEEN_BY.eq(ListView.SeenBy.EVERYONE.name()))
                        .or(LIST_VIEW.SEEN_BY.eq(ListView.SeenBy.TEAM.name()).and(LIST_VIEW.TEAM_ID.in(teams)))
                        .or(LIST_VIEW
                                .SEEN_BY
                                .eq(ListView.SeenBy.ROLE.name())
                                .and(LIST_VIEW.ROLE.eq(me.role().name()))));
    }

    /**
     * The view of this key.
     *
     * @throws Problem.NotFound when there is none that the person may see
     */
    ListView get(String key, Viewer me) {
        return sql.selectFrom(LIST_VIEW)
                .where(LIST_VIEW.KEY.eq(key))
                .and(mayBeSeenBy(me))
                .fetchOptional(Views::view)
                .orElseThrow(() ->
                        new Problem.NotFound("There is no view called “" + key + "”, or it is not shared with you."));
    }

    /** The list that an address asks for: of the view it names, or of a person's first tab. */
    ListRequest asked(Map<String, String> parameters, Viewer me) {
        String key = parameters.getOrDefault("view", "");
        return ListRequest.read(key.isEmpty() ? pinned(me).getFirst() : get(key, me), parameters);
    }

    /** The views that stand as tabs for a person: those pinned, or those that ship when there is none. */
    List<ListView> pinned(Viewer me) {
        List<ListView> visible = visible(me);
        List<Long> pins = sql.select(VIEW_PIN.VIEW_ID)
                .from(VIEW_PIN)
                .where(VIEW_PIN.PERSON_ID.eq(me.id()))
                .orderBy(VIEW_PIN.POSITION)
                .fetch(VIEW_PIN.VIEW_ID);
        List<ListView> tabs = visible.stream()
                .filter(view -> pins.contains(view.id()))
                .sorted(Comparator.comparingInt(view -> pins.indexOf(view.id())))
                .toList();
        // None was ever pinned, or none of those may be seen any more: there is always a worklist to stand on.
        return tabs.isEmpty()
                ? visible.stream()
                        .filter(view -> view.shipped() && view.scope() != ListView.Scope.BIN)
                        .toList()
                : tabs;
    }

    /** Puts a view among the tabs of a person, at the end, or takes it away from there. */
    @Transactional
    void pin(ListView view, boolean pinned, Viewer me) {
        List<ListView> tabs = pinned(me);
        if (pinned && tabs.size() >= MOST_PINNED && tabs.stream().noneMatch(t -> t.id() == view.id())) {
            throw new Problem.Invalid("There is room for " + MOST_PINNED + " tabs. Take one away first.");
        }
        if (!pinned && tabs.size() == 1) {
            throw new Problem.Invalid("At least one view stays as a tab.");
        }
        var next = new java.util.ArrayList<>(
                tabs.stream().filter(t -> t.id() != view.id()).map(ListView::id).toList());
        if (pinned) {
            next.add(view.id());
        }
        sql.deleteFrom(VIEW_PIN).where(VIEW_PIN.PERSON_ID.eq(me.id())).execute();
        for (int i = 0; i < next.size(); i++) {
            sql.insertInto(VIEW_PIN, VIEW_PIN.PERSON_ID, VIEW_PIN.VIEW_ID, VIEW_PIN.POSITION)
                    .values(me.id(), next.get(i), i)
                    .execute();
        }
    }

    /** Who else has a view among their tabs, by name. */
    List<String> usedBy(ListView view, Viewer me) {
        return sql.select(PERSON.NAME)
                .from(VIEW_PIN)
                .join(PERSON)
                .on(PERSON.ID.eq(VIEW_PIN.PERSON_ID))
                .where(VIEW_PIN.VIEW_ID.eq(view.id()))
                .and(PERSON.ID.ne(me.id()))
                .and(PERSON.ACTIVE)
                .orderBy(PERSON.NAME)
                .fetch(PERSON.NAME);
    }

    /** What a person keeps about a view: its name, and who may see it. */
    public record Named(String title, String description, ListView.SeenBy seenBy, Optional<TeamId> team, String role) {}

    /** Keeps a list as a new view, among the tabs of whoever keeps it. */
    @Transactional
    ListView add(ListRequest asked, Named named, Viewer me) {
        check(named, me);
        ListViewRecord row = row(asked, named);
        row.setKey("v-" + UUID.randomUUID().toString().substring(0, 8));
        row.setPersonId(me.id());
        row.setScope(asked.view().scope().name());
        sql.insertInto(LIST_VIEW).set(row).execute();
        ListView view = get(row.getKey(), me);
        if (pinned(me).size() < MOST_PINNED) {
            pin(view, true, me);
        }
        return view;
    }

    /**
     * Keeps what is shown over a view.
     *
     * @throws Problem.NoRight when it is somebody else's
     * @throws Problem.Stale when it was changed meanwhile
     */
    @Transactional
    void keep(ListRequest asked, Named named, int version, Viewer me) {
        ListView view = asked.view();
        requireOwn(view, me);
        check(named, me);
        leaveCopies(
                view,
                named.seenBy() != view.seenBy()
                        || !named.team().equals(view.team())
                        || !named.role().equals(view.role()),
                me);
        ListViewRecord row = row(asked, named);
        row.setVersion(version + 1);
        int kept = sql.update(LIST_VIEW)
                .set(row)
                .where(LIST_VIEW.ID.eq(view.id()))
                .and(LIST_VIEW.VERSION.eq(version))
                .execute();
        if (kept == 0) {
            throw new Problem.Stale(
                    "This view was changed meanwhile. What you see is still in the address; look again and save it then.");
        }
    }

    /**
     * Changes a view's name and who may see it, and leaves what it lists as it is.
     *
     * @throws Problem.NoRight when it is somebody else's
     * @throws Problem.Stale when it was changed meanwhile
     */
    @Transactional
    void rename(ListView view, Named named, int version, Viewer me) {
        keep(ListRequest.of(view), named, version, me);
    }

    /** Deletes a view; whoever has it among their tabs keeps a copy of their own. For some weeks it can be brought back. */
    @Transactional
    int delete(ListView view, Viewer me) {
        requireOwn(view, me);
        Instant now = clock.instant();
        sql.deleteFrom(LIST_VIEW)
                .where(LIST_VIEW.DELETED_AT.lt(now.minus(BROUGHT_BACK_FOR)))
                .execute();
        int copies = leaveCopies(view, true, me);
        sql.deleteFrom(VIEW_PIN).where(VIEW_PIN.VIEW_ID.eq(view.id())).execute();
        sql.update(LIST_VIEW)
                .set(LIST_VIEW.DELETED_AT, now)
                .where(LIST_VIEW.ID.eq(view.id()))
                .execute();
        return copies;
    }

    /** A view that the person deleted and may bring back. */
    Optional<ListView> deleted(String key, Viewer me) {
        return sql.selectFrom(LIST_VIEW)
                .where(LIST_VIEW.KEY.eq(key))
                .and(LIST_VIEW.DELETED_AT.isNotNull())
                .and(me.role().has(Right.HOUSE_RULES) ? DSL.trueCondition() : LIST_VIEW.PERSON_ID.eq(me.id()))
                .fetchOptional(Views::view);
    }

    /** Who has a copy of a deleted view in its place, by name. */
    List<String> haveCopies(ListView deleted) {
        return sql.select(PERSON.NAME)
                .from(LIST_VIEW)
                .join(PERSON)
                .on(PERSON.ID.eq(LIST_VIEW.PERSON_ID))
                .where(LIST_VIEW.COPY_OF.eq(deleted.id()))
                .and(LIST_VIEW.DELETED_AT.isNull())
                .orderBy(PERSON.NAME)
                .fetch(PERSON.NAME);
    }

    /**
     * Brings a deleted view back, as a tab of whoever does so; those who had it as a tab have it again, unless they changed their copy.
     *
     * @throws Problem.NotFound when it is not there any more
     */
    @Transactional
    ListView bringBack(String key, Viewer me) {
        ListView view =
                deleted(key, me).orElseThrow(() -> new Problem.NotFound("That view cannot be brought back any more."));
        sql.update(LIST_VIEW)
                .setNull(LIST_VIEW.DELETED_AT)
                .where(LIST_VIEW.ID.eq(view.id()))
                .execute();
        List<Long> copies = sql.select(LIST_VIEW.ID)
                .from(LIST_VIEW)
                .where(LIST_VIEW.COPY_OF.eq(view.id()))
                .and(LIST_VIEW.VERSION.eq(0))
                .fetch(LIST_VIEW.ID);
        sql.update(VIEW_PIN)
                .set(VIEW_PIN.VIEW_ID, view.id())
                .where(VIEW_PIN.VIEW_ID.in(copies))
                .execute();
        sql.deleteFrom(LIST_VIEW).where(LIST_VIEW.ID.in(copies)).execute();
        if (pinned(me).size() < MOST_PINNED) {
            pin(view, true, me);
        }
        return view;
    }

    /** Nobody loses a tab because somebody else tidies up: each gets a view of their own in its place. */
    private int leaveCopies(ListView view, boolean narrower, Viewer me) {
        if (!narrower) {
            return 0;
        }
        List<PersonId> users = sql.select(VIEW_PIN.PERSON_ID)
                .from(VIEW_PIN)
                .where(VIEW_PIN.VIEW_ID.eq(view.id()))
                .and(VIEW_PIN.PERSON_ID.ne(me.id()))
                .fetch(VIEW_PIN.PERSON_ID);
        for (PersonId user : users) {
            ListViewRecord copy = row(
                    ListRequest.of(view),
                    new Named(view.title(), view.description(), ListView.SeenBy.ME, Optional.empty(), ""));
            copy.setKey("v-" + UUID.randomUUID().toString().substring(0, 8));
            copy.setPersonId(user);
            copy.setCopyOf(view.id());
            copy.setScope(view.scope().name());
            long id =
                    sql.insertInto(LIST_VIEW).set(copy).returning(LIST_VIEW.ID).fetchSingle(LIST_VIEW.ID);
            sql.update(VIEW_PIN)
                    .set(VIEW_PIN.VIEW_ID, id)
                    .where(VIEW_PIN.VIEW_ID.eq(view.id()))
                    .and(VIEW_PIN.PERSON_ID.eq(user))
                    .execute();
        }
        return users.size();
    }

    /** Whether a person may change a view: it is their own, or they set the house rules. */
    static boolean mayChange(ListView view, Viewer me) {
        return !view.shipped()
                && (view.owner().filter(me.id()::equals).isPresent()
                        || me.role().has(Right.HOUSE_RULES));
    }

    private static void requireOwn(ListView view, Viewer me) {
        if (view.shipped()) {
            throw new Problem.NoRight(
                    "This view ships with Rafter and stays as it is. Keep what you see as a view of your own.");
        }
        if (!view.owner().get().equals(me.id())) {
            Access.require(me, Right.HOUSE_RULES);
        }
    }

    private void check(Named named, Viewer me) {
        if (named.title().isBlank() || named.title().length() > 60) {
            throw new Problem.Invalid(
                    "A view needs a name of at most sixty letters. Nothing was saved yet; the list is still in the address.");
        }
        if (named.seenBy() == ListView.SeenBy.TEAM
                && named.team()
                        .filter(t -> persons.teams().stream()
                                .anyMatch(one -> one.id().equals(t)))
                        .isEmpty()) {
            throw new Problem.Invalid("Choose the team that may see it.");
        }
        if ((named.seenBy() == ListView.SeenBy.ROLE || named.seenBy() == ListView.SeenBy.EVERYONE)
                && !me.role().has(Right.HAND_OVER_ANY)) {
            throw new Problem.NoRight(
                    "Sharing with everyone or a role is for leads and administrators. Share it with your team, or keep it to yourself.");
        }
        if (named.seenBy() == ListView.SeenBy.TEAM
                && !me.role().has(Right.HAND_OVER_ANY)
                && named.team().filter(persons.teamsOf(me.id())::contains).isEmpty()) {
            throw new Problem.NoRight("You can share a view with the teams you are in.");
        }
    }

    private static ListViewRecord row(ListRequest asked, Named named) {
        var row = new ListViewRecord();
        row.setTitle(named.title().strip());
        row.setDescription(named.description().strip());
        row.setCriteria(JSONB.valueOf(CriteriaJson.write(asked.criteria())));
        row.setShape(asked.shape().key());
        row.setColumns(Column.written(asked.columns()));
        row.setOrdering(Sorting.written(asked.sorting()));
        row.setGrouping(asked.grouping().map(Grouping::key).orElse(""));
        row.setLimits(asked.limits());
        row.setSeenBy(named.seenBy().name());
        row.setTeamId(named.seenBy() == ListView.SeenBy.TEAM ? named.team().orElse(null) : null);
        row.setRole(named.seenBy() == ListView.SeenBy.ROLE ? named.role().toUpperCase(Locale.ROOT) : "");
        return row;
    }

    private static ListView view(ListViewRecord r) {
        return new ListView(
                r.getId(),
                r.getKey(),
                r.getTitle(),
                r.getDescription(),
                CriteriaJson.read(r.getCriteria().data()),
                ListView.Scope.valueOf(r.getScope()),
                Shape.of(r.getShape()).orElse(Shape.CARDS),
                Column.read(r.getColumns()),
                Sorting.read(r.getOrdering()),
                Grouping.of(r.getGrouping()),
                ListView.SeenBy.valueOf(r.getSeenBy()),
                Optional.ofNullable(r.getPersonId()),
                Optional.ofNullable(r.getTeamId()),
                r.getRole(),
                r.getLimits(),
                r.getVersion());
    }

    /** What relative words mean when a person reads now. */
    Asking asking(Viewer me, Instant now) {
        return new Asking(now, me.id(), persons.teamsOf(me.id()));
    }
}
