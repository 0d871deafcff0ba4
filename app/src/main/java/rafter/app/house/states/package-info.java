/** The states that tickets of this workspace can be in. */
@NullMarked
package rafter.app.house.states;

import org.jspecify.annotations.NullMarked;
