package rafter.app.arrival.intake;

import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMultipart;
import jakarta.mail.util.ByteArrayDataSource;

/** A multipart that is taken apart even when its boundary is another one than it says, or none is said at all. */
final class LenientMultipart extends MimeMultipart {

    private final boolean anyBoundary;

    /**
     * @param anyBoundary take the first line that looks like a boundary, whatever was said
     */
    LenientMultipart(byte[] content, MediaType type, boolean anyBoundary) throws MessagingException {
        super(new ByteArrayDataSource(
                content,
                type.name()
                        + type.parameter("boundary")
                                .filter(b -> !anyBoundary)
                                .map(b -> "; boundary=\"" + b.replace("\\", "\\\\") + "\"")
                                .orElse("")));
        this.anyBoundary = anyBoundary;
    }

    @Override
    protected void initializeProperties() {
        super.initializeProperties();
        ignoreMissingBoundaryParameter = true;
        ignoreMissingEndBoundary = true;
        allowEmpty = true;
        ignoreExistingBoundaryParameter = anyBoundary;
    }
}
