/** Which own fields a ticket asks for, in which order, which of them must be filled, and what they offer. */
@NullMarked
package rafter.core.form;

import org.jspecify.annotations.NullMarked;
