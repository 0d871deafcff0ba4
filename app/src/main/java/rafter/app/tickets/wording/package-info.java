/** The words of the mails that Rafter writes by itself. */
@NullMarked
package rafter.app.tickets.wording;

import org.jspecify.annotations.NullMarked;
