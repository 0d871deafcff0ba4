/** The mailboxes and the way out: settings, connections, and the outbox. */
@NullMarked
package rafter.app.arrival.mail;

import org.jspecify.annotations.NullMarked;
