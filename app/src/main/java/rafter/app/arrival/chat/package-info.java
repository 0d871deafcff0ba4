/** Chat: what is said between a customer's panel and us, kept as entries of a ticket; its settings, its helper, and its end. */
@NullMarked
package rafter.app.arrival.chat;

import org.jspecify.annotations.NullMarked;
