package pantry.usd;

import java.util.ArrayList;
import java.util.List;

/**
 * The path of a prim, property or variant within a layer or stage: {@code /World/Mast.xformOp:translate},
 * {@code /Mast{size=tall}Head}. Immutable, compared by text.
 */
public final class SdfPath implements Comparable<SdfPath> {
    public static final SdfPath ROOT = new SdfPath("/");

    private final String text;

    private SdfPath(String text) {
        this.text = text;
    }

    /**
     * An absolute path.
     *
     * @throws UsdException where the text is not one
     */
    public static SdfPath of(String text) {
        if (!text.startsWith("/") || text.length() > 1 && text.endsWith("/") || text.contains("//")) {
            throw new UsdException("\"" + text + "\" is not an absolute prim or property path, such as /World/Mast");
        }
        return text.length() == 1 ? ROOT : new SdfPath(text);
    }

    /** A path as written in a layer, which may be relative ({@code ../Mast.size}) to the given prim. */
    public static SdfPath resolve(String text, SdfPath anchor) {
        if (text.startsWith("/")) {
            return of(text);
        }
        SdfPath at = anchor;
        String rest = text;
        while (true) {
            if (rest.equals("..") || rest.startsWith("../")) {
                at = at.parent();
                rest = rest.length() == 2 ? "" : rest.substring(3);
            } else if (rest.equals(".") || rest.startsWith("./")) {
                rest = rest.length() == 1 ? "" : rest.substring(2);
            } else {
                break;
            }
        }
        if (rest.isEmpty()) {
            return at;
        }
        return rest.startsWith(".") ? at.property(rest.substring(1)) : of((at == ROOT ? "" : at.text) + "/" + rest);
    }

    public SdfPath child(String name) {
        return new SdfPath(text.endsWith("/") || text.endsWith("}") ? text + name : text + "/" + name);
    }

    public SdfPath property(String name) {
        return new SdfPath(text + "." + name);
    }

    public SdfPath variant(String set, String selection) {
        return new SdfPath(text + "{" + set + "=" + selection + "}");
    }

    /** The prim above, or the prim of a property, or the prim of a variant; the root is its own parent. */
    public SdfPath parent() {
        if (this.equals(ROOT)) {
            return ROOT;
        }
        if (isProperty()) {
            return prim();
        }
        if (text.endsWith("}")) {
            return new SdfPath(text.substring(0, text.lastIndexOf('{')));
        }
        int cut = Math.max(text.lastIndexOf('/'), text.lastIndexOf('}') + 1);
        if (cut == 0) {
            return ROOT;
        }
        return new SdfPath(text.substring(0, cut));
    }

    /** The last element: a prim's or a property's name; empty for the root. */
    public String name() {
        if (isProperty()) {
            return text.substring(propertyDot() + 1);
        }
        return text.substring(Math.max(text.lastIndexOf('/'), text.lastIndexOf('}')) + 1);
    }

    public boolean isProperty() {
        return propertyDot() >= 0;
    }

    /** The prim part of a property path; this itself for a prim path. */
    public SdfPath prim() {
        int dot = propertyDot();
        return dot < 0 ? this : new SdfPath(text.substring(0, dot));
    }

    private int propertyDot() {
        return text.indexOf('.', Math.max(text.lastIndexOf('/'), text.lastIndexOf('}')) + 1);
    }

    /** The path without variant selections: {@code /Mast{size=tall}Head} becomes {@code /Mast/Head}. */
    public SdfPath withoutVariants() {
        if (text.indexOf('{') < 0) {
            return this;
        }
        String plain = text.replaceAll("\\{[^}]*}(?=[^/{.])", "/").replaceAll("\\{[^}]*}", "");
        return new SdfPath(plain);
    }

    /** Whether this is the given path or lies below it. */
    public boolean startsWith(SdfPath prefix) {
        if (prefix.text.length() == 1) {
            return true;
        }
        if (!text.startsWith(prefix.text)) {
            return false;
        }
        if (text.length() == prefix.text.length() || prefix.text.endsWith("}")) {
            return true;
        }
        char next = text.charAt(prefix.text.length());
        return next == '/' || next == '.' || next == '{';
    }

    /** This path moved from below {@code from} to below {@code to}; this itself where it is not below {@code from}. */
    public SdfPath replacePrefix(SdfPath from, SdfPath to) {
        if (!startsWith(from)) {
            return this;
        }
        String rest = text.substring(from.text.length());
        if (rest.isEmpty()) {
            return to;
        }
        if (from.text.length() == 1 && !rest.startsWith("/")) {
            rest = "/" + rest;
        }
        if (from.text.endsWith("}") && !to.text.endsWith("}")) {
            rest = "/" + rest;
        }
        return new SdfPath(to.text.length() == 1 ? rest : to.text + rest);
    }

    /** The prim names from the root down, without variant selections and property. */
    public List<String> names() {
        List<String> names = new ArrayList<>();
        for (String name : prim().withoutVariants().text.split("/")) {
            if (!name.isEmpty()) {
                names.add(name);
            }
        }
        return names;
    }

    @Override
    public int compareTo(SdfPath o) {
        return text.compareTo(o.text);
    }

    @Override
    public boolean equals(Object o) {
        return o instanceof SdfPath path && path.text.equals(text);
    }

    @Override
    public int hashCode() {
        return text.hashCode();
    }

    @Override
    public String toString() {
        return text;
    }
}
