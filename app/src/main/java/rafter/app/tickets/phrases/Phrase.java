package rafter.app.tickets.phrases;

import rafter.app.house.access.Holder;

/**
 * A saved piece of what is written.
 *
 * @param folder where it stands in the phrasebook; its levels are parted by slashes; blank: in none
 * @param language the language that it is in, by its ISO 639 code; blank: whichever
 * @param html its formatted text, with placeholders
 * @param used how often it was put into a text
 */
public record Phrase(
        long id, String name, String folder, String language, Holder holder, String html, int used, int version) {}
