/** Who may sign in, and what they may do. */
@NullMarked
package rafter.app.house.access;

import org.jspecify.annotations.NullMarked;
