/** Decides which of the mails that Rafter writes by itself somebody gets, and in which language. */
@NullMarked
package rafter.core.wording;

import org.jspecify.annotations.NullMarked;
