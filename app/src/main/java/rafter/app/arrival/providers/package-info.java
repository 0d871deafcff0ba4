/** Outside services by which customers reach us: what they tell us, kept as it came, and what we tell them. */
@NullMarked
package rafter.app.arrival.providers;

import org.jspecify.annotations.NullMarked;
