package pantry.base;

import java.util.Base64;

/** A page of a report that stands alone: its style and its pictures are within it. */
public final class HtmlPage {
    private static final String STYLE = """
            body{font:14px/1.5 Inter,sans-serif;background:#F6F2E9;color:#22262B;margin:32px}
            table{border-collapse:collapse;background:#FFFDF8;margin:12px 0}
            th,td{border:1px solid #DDD5C3;padding:4px 10px;text-align:left;vertical-align:top}
            td.n{text-align:right;font-family:"JetBrains Mono",monospace}
            tr.marked td{color:#9C2F4A}
            figure{display:inline-block;margin:8px 12px 8px 0}figcaption{color:#5C6066}
            """;

    private final StringBuilder body = new StringBuilder();
    private final String title;

    public HtmlPage(String title) {
        this.title = title;
        body.append("<h1>").append(escaped(title)).append("</h1>\n");
    }

    /** Adds the heading of a section. */
    public HtmlPage heading(String text) {
        return element("h2", text);
    }

    /** Adds a paragraph. */
    public HtmlPage paragraph(String text) {
        return element("p", text);
    }

    private HtmlPage element(String name, String text) {
        body.append('<').append(name).append('>').append(escaped(text));
        body.append("</").append(name).append(">\n");
        return this;
    }

    /** Adds a table. */
    public HtmlPage table(ReportTable table) {
        body.append("<table><tr>");
        table.columns()
                .forEach(column ->
                        body.append("<th>").append(escaped(column.heading())).append("</th>"));
        body.append("</tr>\n");
        for (ReportTable.Row row : table.rows()) {
            body.append(row.marked() ? "<tr class=\"marked\">" : "<tr>");
            for (int i = 0; i < row.cells().size(); i++) {
                body.append(table.columns().get(i).figures() ? "<td class=\"n\">" : "<td>")
                        .append(escaped(row.cells().get(i)))
                        .append("</td>");
            }
            body.append("</tr>\n");
        }
        body.append("</table>\n");
        return this;
    }

    /** Adds a picture with a line below it. */
    public HtmlPage picture(byte[] png, String caption) {
        body.append("<figure><img alt=\"")
                .append(escaped(caption))
                .append("\" src=\"data:image/png;base64,")
                .append(Base64.getEncoder().encodeToString(png))
                .append("\"><figcaption>")
                .append(escaped(caption))
                .append("</figcaption></figure>\n");
        return this;
    }

    /** The whole page. */
    public String text() {
        return "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>" + escaped(title)
                + "</title><style>" + STYLE + "</style></head><body>\n" + body + "</body></html>\n";
    }

    private static String escaped(String text) {
        return text.replace("&", "&amp;")
                .replace("<", "&lt;")
                .replace(">", "&gt;")
                .replace("\"", "&quot;");
    }
}
