package rafter.app.house.access;

import rafter.core.id.TeamId;

/** A group of people who share work. */
public record Team(TeamId id, String name) {}
