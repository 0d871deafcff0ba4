/** Decides which rules fire, in which order, and why; which can never fire, contradict or loop. Data in, a trace out; nothing is done here. */
@NullMarked
package rafter.core.rule;

import org.jspecify.annotations.NullMarked;
