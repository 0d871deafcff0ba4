/** The editor of criteria sentences, and what people call the values in them. */
@NullMarked
package rafter.app.house.criteria;

import org.jspecify.annotations.NullMarked;
