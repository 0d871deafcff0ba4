/** The page with which a day begins. */
@NullMarked
package rafter.app.today;

import org.jspecify.annotations.NullMarked;
