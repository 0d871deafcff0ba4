/** What is written to the customer and among ourselves: drafts, files, recipients, sending. */
@NullMarked
package rafter.app.tickets.writing;

import org.jspecify.annotations.NullMarked;
