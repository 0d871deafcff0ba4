/** All files of a ticket in one place, with small pictures of what is in them. */
@NullMarked
package rafter.app.tickets.files;

import org.jspecify.annotations.NullMarked;
