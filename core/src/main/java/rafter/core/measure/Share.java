package rafter.core.measure;

/**
 * A share of a number of tickets, with a statement of how sure it is.
 *
 * @param part how many of them
 * @param whole of how many
 */
public record Share(long part, long whole) {

    /** Two-sided 95 in a hundred of the normal distribution. */
    private static final double Z = 1.959964;

    public Share {
        if (part < 0 || part > whole) {
            throw new IllegalArgumentException(part + " of " + whole + " is no share");
        }
    }

    /** The share of a hundred; zero of nothing. */
    public double percent() {
        return whole == 0 ? 0 : 100.0 * part / whole;
    }

    /**
     * The bounds, of a hundred, between which the true share lies with 95 % confidence: the score interval of E. B. Wilson, "Probable
     * inference, the law of succession, and statistical inference", J. Am. Stat. Assoc. 22 (1927); it behaves for few tickets and for
     * shares near none and all. From nothing, nothing is known: 0 to 100.
     */
    public Bounds bounds() {
        if (whole == 0) {
            return new Bounds(0, 100);
        }
        double n = whole;
        double p = part / n;
        double middle = (p + Z * Z / (2 * n)) / (1 + Z * Z / n);
        double reach = Z / (1 + Z * Z / n) * Math.sqrt(p * (1 - p) / n + Z * Z / (4 * n * n));
        return new Bounds(Math.max(0, 100 * (middle - reach)), Math.min(100, 100 * (middle + reach)));
    }

    /** From and to, of a hundred. */
    public record Bounds(double low, double high) {}

    /** How a share stands to a goal. */
    public enum Standing {
        /** Surely at or above it. */
        REACHED,
        /** Surely below it. */
        MISSED,
        /** The figure says one thing, but few tickets are behind it. */
        UNSURE
    }

    /** How it stands to a goal of a hundred: sure only when the whole interval lies on one side. */
    public Standing against(int goal) {
        Bounds bounds = bounds();
        if (bounds.low() >= goal || (part == whole && whole > 0 && goal == 100)) {
            return Standing.REACHED;
        }
        // A goal of all is missed by a single ticket.
        return bounds.high() < goal || (goal == 100 && part < whole) ? Standing.MISSED : Standing.UNSURE;
    }
}
