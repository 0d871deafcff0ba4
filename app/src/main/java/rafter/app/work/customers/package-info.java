/** The pages about those who write to us. */
@NullMarked
package rafter.app.work.customers;

import org.jspecify.annotations.NullMarked;
