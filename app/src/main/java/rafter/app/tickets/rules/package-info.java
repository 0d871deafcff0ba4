/** Rules: the book, reading it for what happens to tickets, and explaining, rehearsing and checking it. */
@NullMarked
package rafter.app.tickets.rules;

import org.jspecify.annotations.NullMarked;
