/** The pages about those who write to us. */
@NullMarked
package rafter.app.customers;

import org.jspecify.annotations.NullMarked;
