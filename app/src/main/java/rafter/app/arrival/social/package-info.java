/** What people write publicly, or to us, on networks: watched, looked through, made into tickets, and answered where it was written. */
@NullMarked
package rafter.app.arrival.social;

import org.jspecify.annotations.NullMarked;
