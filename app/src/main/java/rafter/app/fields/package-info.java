/** The fields that administrators add to tickets. */
@NullMarked
package rafter.app.fields;

import org.jspecify.annotations.NullMarked;
