package rafter.core.ticket;

import tools.jackson.databind.node.ObjectNode;

/** Brings bodies of events that an earlier version wrote into the form of today. */
final class EarlierForms {

    private EarlierForms() {}

    /** From the first form to the second; kinds that have but one form are never brought here. */
    static void bringUp(EventKind kind, ObjectNode body) {
        switch (kind) {
            case OPENED -> {
                // Which address of ours it came to stood in the ticket's row alone, until a migration wrote it here.
                ObjectNode way = body.putObject("way");
                move(body, "channel", way, "channel");
                move(body, "address", way, "address");
                orNothing(way, "address");
                orNothing(body, "team");
            }
            case CUSTOMER_WROTE, WE_WROTE -> body.put("automatic", body.has("automatic"));
            case STATE -> {
                ObjectNode state = body.objectNode();
                move(body, "state", state, "key");
                move(body, "name", state, "name");
                move(body, "turn", state, "turn");
                move(body, "ending", state, "ending");
                body.set("state", state);
            }
            case OWNER -> orNothing(body, "owner");
            case TEAM -> orNothing(body, "team");
            case CUSTOMER -> {
                known(body, "before");
                known(body, "after");
            }
            case TIME_AGREED -> orNothing(body, "due");
            case BRING_BACK -> orNothing(body, "when");
            case NOTE,
                    PUBLIC_NOTE,
                    NOTE_TAKEN_BACK,
                    BOUNCED,
                    PRIORITY,
                    TOPIC,
                    TAGS,
                    FIELD,
                    LINKED,
                    UNLINKED,
                    CONTINUED,
                    JOINED,
                    PARTED,
                    DISCARDED,
                    RESTORED,
                    BROUGHT_BACK,
                    WAY_CHANGED,
                    WATCHED,
                    TASK,
                    TASK_TICKED,
                    TASK_DROPPED,
                    TASKS_ORDERED,
                    TIME_SPENT,
                    TIME_DROPPED,
                    CONCLUDED,
                    PUT_UNDER,
                    RATED,
                    WROTE_OUTSIDE,
                    OUTSIDE_WROTE,
                    CUSTOMER_IS,
                    SPLIT_OFF,
                    SPLIT_BACK,
                    CALL,
                    CALL_DROPPED,
                    MEETING,
                    MEETING_OFF,
                    HELP_ASKED,
                    HELP_ENDED,
                    HELP_REOPENED,
                    WATCHED_FOR,
                    AWAITS,
                    SIDE_ASKED,
                    SIDE_ANSWERED,
                    SIDE_DROPPED,
                    POLICY_PUT,
                    QUEUE_PUT,
                    SKILL_PUT -> throw new IllegalStateException("there is but one form of " + kind.word());
        }
    }

    private static void known(ObjectNode body, String when) {
        ObjectNode customer = body.putObject(when);
        move(body, when + "-company", customer, "company");
        move(body, when + "-plan", customer, "plan");
        orNothing(customer, "company");
    }

    private static void move(ObjectNode from, String name, ObjectNode to, String as) {
        if (from.has(name)) {
            to.set(as, from.remove(name));
        }
    }

    /** The first forms left out what was empty. */
    private static void orNothing(ObjectNode body, String name) {
        if (!body.has(name)) {
            body.putNull(name);
        }
    }
}
