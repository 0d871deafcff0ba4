package rafter.app.handout.people;

/** Within the transaction: queues or skills were changed, so that tickets may wait elsewhere. */
public record HandoutChanged() {}
