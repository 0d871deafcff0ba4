/** How much time was spent, on whom and on what. */
@NullMarked
package rafter.app.work.time;

import org.jspecify.annotations.NullMarked;
