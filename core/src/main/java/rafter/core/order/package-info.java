/** Decides nothing; lists whose order people change. */
@NullMarked
package rafter.core.order;

import org.jspecify.annotations.NullMarked;
