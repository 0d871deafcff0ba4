/** The simulated outside world: mail servers with the mailboxes of made-up people, and a page to play any of them. */
@NullMarked
package rafter.outside;

import org.jspecify.annotations.NullMarked;
