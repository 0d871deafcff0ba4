package rafter.app.access;

/** A group of people who share work. */
public record Team(long id, String name) {}
