/** What becomes of mail that belongs to no ticket yet: the rules for it, and what is learned of junk. */
@NullMarked
package rafter.app.arrival.sorting;

import org.jspecify.annotations.NullMarked;
