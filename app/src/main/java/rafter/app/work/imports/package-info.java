/** Contacts from files of other programs, and into such files: tables of comma-separated values and vCards. */
@NullMarked
package rafter.app.work.imports;

import org.jspecify.annotations.NullMarked;
