/** Decides what in a message is its own words, its quoted rest and its signature, and whether a person wrote it. */
@NullMarked
package rafter.core.text;

import org.jspecify.annotations.NullMarked;
