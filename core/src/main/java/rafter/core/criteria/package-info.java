/**
 * Decides whether a ticket matches a criteria sentence, tells why, and says the sentence in words. One language for everything that asks
 * "which tickets?".
 */
@NullMarked
package rafter.core.criteria;

import org.jspecify.annotations.NullMarked;
