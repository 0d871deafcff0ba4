/** Macros: several acts under one name, previewed, done at once or offered, and taken back together. */
@NullMarked
package rafter.app.tickets.macros;

import org.jspecify.annotations.NullMarked;
