/** Decides what becomes of a mail that belongs to no ticket yet: by rules, by what was learned of junk, or a ticket. */
@NullMarked
package rafter.core.arrival;

import org.jspecify.annotations.NullMarked;
