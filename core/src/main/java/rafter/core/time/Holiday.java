package rafter.core.time;

import java.time.LocalDate;

/**
 * A local date of the calendar's zone on which the team is closed for every minute.
 *
 * @param date the closed date
 * @param name what people call it
 */
public record Holiday(LocalDate date, String name) {}
