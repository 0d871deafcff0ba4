/** The demo world: who is in it, what they ask, and ninety days of history made through the application's own services. */
@NullMarked
package rafter.outside.demo;

import org.jspecify.annotations.NullMarked;
