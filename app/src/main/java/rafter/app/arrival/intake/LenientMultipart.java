package rafter.app.arrival.intake;

import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMultipart;
import jakarta.mail.util.ByteArrayDataSource;
import jakarta.mail.util.SharedByteArrayInputStream;
import java.io.InputStream;

/** A multipart that is taken apart even when its boundary is another one than it says, or none is said at all. */
final class LenientMultipart extends MimeMultipart {

    private final boolean anyBoundary;

    /**
     * @param anyBoundary take the first line that looks like a boundary, whatever was said
     */
    LenientMultipart(byte[] content, MediaType type, boolean anyBoundary) throws MessagingException {
        super(new Shared(content, said(type, anyBoundary)));
        this.anyBoundary = anyBoundary;
    }

    private static String said(MediaType type, boolean anyBoundary) {
        return type.name()
                + type.parameter("boundary")
                        .filter(b -> !anyBoundary)
                        .map(b -> "; boundary=\"" + b.replace("\\", "\\\\") + "\"")
                        .orElse("");
    }

    /** Bytes of which each part is a stretch; from other streams parts are copied. */
    private static final class Shared extends ByteArrayDataSource {
        private final byte[] content;

        Shared(byte[] content, String type) {
            super(content, type);
            this.content = content;
        }

        @Override
        public InputStream getInputStream() {
            return new SharedByteArrayInputStream(content);
        }
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
