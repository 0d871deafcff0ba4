/** Queues: where tickets wait for somebody, at which place and why, and how they are handed out. */
@NullMarked
package rafter.app.handout.queues;

import org.jspecify.annotations.NullMarked;
