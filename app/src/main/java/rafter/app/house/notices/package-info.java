/** What a person is told about tickets that concern them. */
@NullMarked
package rafter.app.house.notices;

import org.jspecify.annotations.NullMarked;
