/** The fields that administrators add to tickets. */
@NullMarked
package rafter.app.house.fields;

import org.jspecify.annotations.NullMarked;
