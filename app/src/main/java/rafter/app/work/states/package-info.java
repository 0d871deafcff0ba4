/** The page on which administrators say which states there are, with what a change of them touches. */
@NullMarked
package rafter.app.work.states;

import org.jspecify.annotations.NullMarked;
