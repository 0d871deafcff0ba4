/** Decides what public posts are: how one stands after edits and deletions, in which mood it was written, and which belong to one matter. */
@NullMarked
package rafter.core.social;

import org.jspecify.annotations.NullMarked;
