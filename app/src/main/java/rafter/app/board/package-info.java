/** How the team keeps its service targets. */
@NullMarked
package rafter.app.board;

import org.jspecify.annotations.NullMarked;
