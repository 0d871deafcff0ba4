/** Which fields tickets ask for: forms by the kind of ticket, and rules by which fields are shown, wanted and narrowed. */
@NullMarked
package rafter.app.house.forms;

import org.jspecify.annotations.NullMarked;
