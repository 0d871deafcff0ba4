/** Decides who is told of what happens to tickets: a choice for each event and audience, made into rules. */
@NullMarked
package rafter.core.notice;

import org.jspecify.annotations.NullMarked;
