/** The pages on which the mails that Rafter writes by itself are worded, looked at and tried. */
@NullMarked
package rafter.app.tickets.mails;

import org.jspecify.annotations.NullMarked;
