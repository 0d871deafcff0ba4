/** The page with which a day begins. */
@NullMarked
package rafter.app.work.today;

import org.jspecify.annotations.NullMarked;
