/** Decides what a telephone call was: how long somebody waited, with whom they spoke, and how it ended. */
@NullMarked
package rafter.core.telephone;

import org.jspecify.annotations.NullMarked;
