package rafter.app.house.access;

/** A group of people who share work. */
public record Team(long id, String name) {}
