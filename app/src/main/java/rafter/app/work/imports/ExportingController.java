package rafter.app.work.imports;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.Audit;

/** All contacts as a file. */
@Controller
@RequestMapping("/people/export")
class ExportingController {

    private final Exporting exporting;
    private final Audit audit;
    private final Access access;

    ExportingController(Exporting exporting, Audit audit, Access access) {
        this.exporting = exporting;
        this.audit = audit;
        this.access = access;
    }

    @GetMapping("/csv")
    void values(HttpServletResponse response) throws IOException {
        audit.note(access.require(Right.HOUSE_RULES).id(), "exported contacts", "csv");
        response.setContentType("text/csv;charset=utf-8");
        response.setHeader("Content-Disposition", "attachment; filename=\"contacts.csv\"");
        exporting.values(response.getWriter());
    }

    @GetMapping("/vcf")
    void cards(HttpServletResponse response) throws IOException {
        audit.note(access.require(Right.HOUSE_RULES).id(), "exported contacts", "vcf");
        response.setContentType("text/vcard;charset=utf-8");
        response.setHeader("Content-Disposition", "attachment; filename=\"contacts.vcf\"");
        exporting.cards(response.getWriter());
    }
}
