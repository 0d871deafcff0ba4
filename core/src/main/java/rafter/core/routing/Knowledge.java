package rafter.core.routing;

import rafter.core.measure.Share;

/**
 * What somebody did before with such a ticket.
 *
 * @param ofCustomer how many tickets of this customer they answered, lately
 * @param ownAgent whether they look after the customer’s company, or answered this ticket or this customer last
 * @param topic of the tickets on this topic that they resolved, how many did not come back
 * @param ahead how much working time of theirs is spoken for before this ticket, in minutes
 */
public record Knowledge(int ofCustomer, boolean ownAgent, Share topic, long ahead) {

    /** Nothing is known. */
    public static final Knowledge NOTHING = new Knowledge(0, false, new Share(0, 0), 0);

    /** So many tickets of the whole team stand behind each person’s own, so that one lucky ticket makes nobody an expert. */
    private static final double SHRINK = 8;

    /**
     * How well they resolve tickets on this topic, of one: their own share, shrunk towards that of all (the posterior mean of a beta
     * distribution whose prior weighs as much as {@value #SHRINK} tickets), and less the fewer they had.
     *
     * @param all of the tickets on this topic that anybody resolved, how many did not come back
     */
    public double topicScore(Share all) {
        double mean = all.whole() == 0 ? 0.5 : (double) all.part() / all.whole();
        double shrunk = (topic.part() + SHRINK * mean) / (topic.whole() + SHRINK);
        double seen = topic.whole() / (topic.whole() + SHRINK);
        return shrunk * (0.3 + 0.7 * seen);
    }

    /** How well they know the customer, of one; three tickets are as good as many. */
    public double customerScore() {
        return ownAgent ? 1 : Math.min(1, ofCustomer / 3.0) * 0.9;
    }
}
