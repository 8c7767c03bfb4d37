package pantry.usd;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

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
        if (text.length() == 1 && text.charAt(0) == '/') {
            return ROOT;
        }
        if (!isWellFormed(text)) {
            throw new UsdException("\"" + text + "\" is not an absolute prim or property path, such as /World/Mast");
        }
        return new SdfPath(text);
    }

    /** Whether a text is an absolute path: every element has a name and the brackets are closed. */
    public static boolean isWellFormed(String text) {
        if (text.isEmpty() || text.charAt(0) != '/') {
            return false;
        }
        if (text.length() == 1) {
            return true;
        }
        boolean nameNeeded = true;
        int targets = 0;
        for (int i = 1; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '/', '.' -> {
                    boolean opensTarget = c == '/' && text.charAt(i - 1) == '[';
                    if (nameNeeded && !opensTarget) {
                        return false;
                    }
                    nameNeeded = true;
                }
                case '{' -> {
                    int end = text.indexOf('}', i);
                    int equals = text.indexOf('=', i);
                    if (nameNeeded || end < 0 || equals < i + 2 || equals > end) {
                        return false;
                    }
                    i = end;
                }
                case '[' -> {
                    targets++;
                    nameNeeded = true;
                }
                case ']' -> {
                    if (nameNeeded || --targets < 0) {
                        return false;
                    }
                }
                default -> {
                    if (c <= ' ' || c == '<' || c == '>' || c == '"' || c == '\'' || c == '}' || c == '@') {
                        return false;
                    }
                    nameNeeded = false;
                }
            }
        }
        return !nameNeeded && targets == 0;
    }

    /** One step down from a prim: to a child or into a variant. */
    public sealed interface Element {
        record Child(String name) implements Element {}

        record Variant(String set, String selection) implements Element {}
    }

    /**
     * The steps from the root down to the prim, through variants; without property.
     *
     * @throws UsdException where the path leads above the root
     */
    public List<Element> elements() {
        List<Element> elements = new ArrayList<>();
        int end = propertyDot() < 0 ? text.length() : propertyDot();
        int at = 1;
        while (at < end) {
            if (text.charAt(at) == '{') {
                int equals = text.indexOf('=', at);
                int close = text.indexOf('}', at);
                elements.add(new Element.Variant(text.substring(at + 1, equals), text.substring(equals + 1, close)));
                at = close + 1;
            } else if (text.charAt(at) == '/') {
                at++;
            } else {
                int from = at;
                while (at < end && text.charAt(at) != '/' && text.charAt(at) != '{') {
                    at++;
                }
                elements.add(new Element.Child(text.substring(from, at)));
            }
        }
        return elements;
    }

    /**
     * A path as written in a layer, which may be relative ({@code ../Mast.size}) to the given prim.
     *
     * @throws UsdException where the path leads above the root
     */
    public static SdfPath resolve(String text, SdfPath anchor) {
        if (text.startsWith("/")) {
            return of(text);
        }
        SdfPath at = anchor;
        String rest = text;
        while (true) {
            if (rest.equals("..") || rest.startsWith("../")) {
                if (at.equals(ROOT)) {
                    throw new UsdException("\"" + text + "\" leads above the root from " + anchor);
                }
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
        if (rest.startsWith(".")) {
            return of(at.text + rest);
        }
        return of((at.equals(ROOT) ? "" : at.text) + (at.text.endsWith("}") ? "" : "/") + rest);
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

    /** Whether this is the path of a prim directly below the root. */
    public boolean isRootPrim() {
        return text.length() > 1
                && text.indexOf('/', 1) < 0
                && text.indexOf('{') < 0
                && text.indexOf('.') < 0
                && text.indexOf('[') < 0;
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
        int bracket = text.indexOf('[');
        int end = bracket < 0 ? text.length() : bracket;
        int from = Math.max(text.lastIndexOf('/', end - 1), text.lastIndexOf('}', end - 1)) + 1;
        int dot = text.indexOf('.', from);
        return dot < 0 || dot >= end ? -1 : dot;
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

    /** Whether this is one of the given paths or lies below one; takes no longer for many of them. */
    public boolean startsWithAny(Set<SdfPath> prefixes) {
        return nearest(prefixes).isPresent();
    }

    /** The longest of the given paths that this is or lies below; takes no longer for many of them. */
    public Optional<SdfPath> nearest(Set<SdfPath> prefixes) {
        for (SdfPath at = this; ; at = at.parent()) {
            if (prefixes.contains(at)) {
                return Optional.of(at);
            }
            if (at.equals(ROOT)) {
                return Optional.empty();
            }
        }
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
        if (to.text.endsWith("}") && rest.startsWith("/")) {
            rest = rest.substring(1);
        }
        return new SdfPath(to.text.length() == 1 ? rest : to.text + rest);
    }

    /** The prim names from the root down, without variant selections and property. */
    public List<String> names() {
        List<String> names = new ArrayList<>();
        for (Element element : elements()) {
            if (element instanceof Element.Child(String name)) {
                names.add(name);
            }
        }
        return names;
    }

    /** How many prims there are from the root down to this one; 0 for the root. */
    public int depth() {
        int end = propertyDot() < 0 ? text.length() : propertyDot();
        int depth = 0;
        boolean atName = false;
        for (int i = 0; i < end; i++) {
            switch (text.charAt(i)) {
                case '/' -> atName = true;
                case '{' -> {
                    i = text.indexOf('}', i);
                    atName = true;
                }
                default -> {
                    depth += atName ? 1 : 0;
                    atName = false;
                }
            }
        }
        return depth;
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
