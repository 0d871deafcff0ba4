/** The pages on which administrators take states and fields out of use, with what that touches and what is carried over. */
@NullMarked
package rafter.app.work.shape;

import org.jspecify.annotations.NullMarked;
