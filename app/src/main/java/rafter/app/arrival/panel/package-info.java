/** The panel: the page and the small contract by which somebody on a website talks with us, without signing in. */
@NullMarked
package rafter.app.arrival.panel;

import org.jspecify.annotations.NullMarked;
