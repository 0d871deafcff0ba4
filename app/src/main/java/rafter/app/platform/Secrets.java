package rafter.app.platform;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.OptionalLong;
import javax.crypto.Cipher;
import javax.crypto.Mac;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.stereotype.Component;

/** Keeps secrets secret in the database, and signs what must not be forged. */
@Component
public class Secrets {

    private static final int SIGNED = 40;

    private static final int NONCE_BYTES = 12;
    private static final int TAG_BITS = 128;

    private final SecureRandom random = new SecureRandom();
    private final byte[] key;

    /** @throws IllegalStateException when there is no key: a constant one would guard nothing */
    Secrets(RafterSettings settings) {
        if (settings.secretKey().isBlank()) {
            throw new IllegalStateException(
                    "RAFTER_SECRET_KEY is missing. It guards the mailbox passwords in the database; make one with: openssl rand -hex 32");
        }
        this.key = Files.sha256(("rafter:" + settings.secretKey()).getBytes(StandardCharsets.UTF_8));
    }

    /** Encrypts with AES-GCM under the key of the settings. */
    public byte[] seal(String secret) {
        byte[] nonce = randomBytes(NONCE_BYTES);
        byte[] sealed = crypt(Cipher.ENCRYPT_MODE, nonce, secret.getBytes(StandardCharsets.UTF_8));
        byte[] all = Arrays.copyOf(nonce, nonce.length + sealed.length);
        System.arraycopy(sealed, 0, all, nonce.length, sealed.length);
        return all;
    }

    /**
     * Decrypts what {@link #seal} made.
     *
     * @throws Problem.Invalid when it was sealed under another key
     */
    public String open(byte[] sealed) {
        try {
            byte[] nonce = Arrays.copyOf(sealed, NONCE_BYTES);
            byte[] rest = Arrays.copyOfRange(sealed, NONCE_BYTES, sealed.length);
            return new String(crypt(Cipher.DECRYPT_MODE, nonce, rest), StandardCharsets.UTF_8);
        } catch (IllegalStateException e) {
            throw new Problem.Invalid(
                    "The stored password was saved under another secret key. Enter it again under House rules, Email.");
        }
    }

    /** Random bytes that nobody can guess. */
    public byte[] randomBytes(int count) {
        byte[] bytes = new byte[count];
        random.nextBytes(bytes);
        return bytes;
    }

    /** A random word of letters and digits, with eight bits for every two characters. */
    public String randomWord(int bytes) {
        return HexFormat.of().formatHex(randomBytes(bytes));
    }

    /** What is true only of these words and of this installation: HMAC-SHA256 under the key of the settings, in hexadecimal. */
    public String sign(String what) {
        return sign(key, what);
    }

    /**
     * A number as a part of an address that nobody can make without the key of this installation, so that it need not be stored and stays the
     * same.
     *
     * @param what it is a number of; a part made for something else is none for this
     */
    public String signed(String what, long number) {
        return number + "-" + sign(what + " " + number).substring(0, SIGNED);
    }

    /** The number in such a part of an address; empty when it is none of ours. */
    public OptionalLong unsigned(String what, String part) {
        String digits = part.replaceFirst("-.*", "");
        if (!digits.matches("\\d{1,18}")) {
            return OptionalLong.empty();
        }
        long number = Long.parseLong(digits);
        boolean ours = MessageDigest.isEqual(
                signed(what, number).getBytes(StandardCharsets.UTF_8), part.getBytes(StandardCharsets.UTF_8));
        return ours ? OptionalLong.of(number) : OptionalLong.empty();
    }

    /** HMAC-SHA256 in hexadecimal. */
    public static String sign(byte[] secret, String what) {
        try {
            Mac mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(secret, "HmacSHA256"));
            return HexFormat.of().formatHex(mac.doFinal(what.getBytes(StandardCharsets.UTF_8)));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java has HmacSHA256", e);
        }
    }

    private byte[] crypt(int mode, byte[] nonce, byte[] bytes) {
        try {
            Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
            cipher.init(mode, new SecretKeySpec(key, "AES"), new GCMParameterSpec(TAG_BITS, nonce));
            return cipher.doFinal(bytes);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("cannot encrypt or decrypt", e);
        }
    }
}
