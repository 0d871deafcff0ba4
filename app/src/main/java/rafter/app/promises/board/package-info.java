/** How the team keeps its service targets. */
@NullMarked
package rafter.app.promises.board;

import org.jspecify.annotations.NullMarked;
