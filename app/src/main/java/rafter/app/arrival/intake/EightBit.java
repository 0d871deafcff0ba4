package rafter.app.arrival.intake;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.StandardCharsets;
import java.nio.charset.UnsupportedCharsetException;
import java.util.Map;
import java.util.Optional;
import org.mozilla.universalchardet.UniversalDetector;

/** Text from bytes whose charset is wrong, unknown or not told. */
final class EightBit {

    private static final Map<String, String> ALSO_CALLED = Map.of(
            "utf8",
            "UTF-8",
            "utf-8-sig",
            "UTF-8",
            "latin-1",
            "ISO-8859-1",
            "iso-8859-8-i",
            "ISO-8859-8",
            "ascii",
            "windows-1252",
            "us-ascii",
            "windows-1252",
            "x-unknown",
            "UTF-8",
            "ansi_x3.4-1968",
            "windows-1252");

    /** So much tells a charset. */
    private static final int READ = 50_000;

    private static final int FEWEST = 12;

    private EightBit() {}

    /** Header text in which the library has kept each byte as one character. */
    static String asText(String header) {
        boolean eightBit = header.chars().anyMatch(c -> c > 0x7f && c <= 0xff)
                && header.chars().noneMatch(c -> c > 0xff);
        return eightBit ? decode(header.getBytes(StandardCharsets.ISO_8859_1), Optional.empty()) : header;
    }

    /**
     * Decodes bytes in the charset they claim; else as UTF-8 when they are valid UTF-8, else in the charset that their frequencies tell, else as
     * Windows Latin.
     *
     * @param claimed the name of the charset
     */
    static String decode(byte[] bytes, Optional<String> claimed) {
        Optional<Charset> charset = claimed.flatMap(EightBit::charset);
        // Bytes that claim seven bits and use eight are what the others are: undeclared.
        if (charset.isPresent() && !charset.get().name().equals("windows-1252")) {
            return new String(bytes, charset.get());
        }
        try {
            return StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString();
        } catch (CharacterCodingException e) {
            return new String(bytes, detected(bytes).orElse(Charset.forName("windows-1252")));
        }
    }

    /** A few letters tell nothing. */
    private static Optional<Charset> detected(byte[] bytes) {
        int beyond = 0;
        for (int i = 0; i < bytes.length && beyond < FEWEST; i++) {
            beyond += bytes[i] < 0 ? 1 : 0;
        }
        if (beyond < FEWEST) {
            return Optional.empty();
        }
        var detector = new UniversalDetector();
        detector.handleData(bytes, 0, Math.min(bytes.length, READ));
        detector.dataEnd();
        return Optional.ofNullable(detector.getDetectedCharset()).flatMap(EightBit::charset);
    }

    private static Optional<Charset> charset(String name) {
        String plain = name.strip().toLowerCase(java.util.Locale.ROOT).replaceAll("[\"']", "");
        try {
            return Optional.of(Charset.forName(ALSO_CALLED.getOrDefault(plain, plain)));
        } catch (IllegalCharsetNameException | UnsupportedCharsetException e) {
            return Optional.empty();
        }
    }
}
