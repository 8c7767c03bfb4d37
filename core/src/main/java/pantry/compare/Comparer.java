package pantry.compare;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.SurfaceDistance;
import pantry.model.Facts;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.model.WorldPoints;

/**
 * Compares two states of a model. Objects are matched by their paths; what is left over, by shape: the same points and
 * faces under another path were renamed. What then is the only one gone from its group, and has one new beside it, was
 * replaced by that.
 */
public final class Comparer {
    /** Of the model's size: smaller moves are rounding. */
    private static final double TOLERANCE = 1e-6;

    private final Model before;
    private final Model after;
    private final Map<String, Objects.Thing> old;
    private final Map<String, Objects.Thing> now;
    private final double tolerance;

    /** A state of a model: what it shows, and what can be chosen on it. */
    public record State(Model model, Map<String, List<String>> variants) {}

    private Comparer(Model before, Model after) {
        this.before = before;
        this.after = after;
        this.old = Objects.of(before);
        this.now = Objects.of(after);
        Box3 both = before.bounds().union(after.bounds());
        this.tolerance = both.isEmpty() ? TOLERANCE : Math.max(1e-9, TOLERANCE * both.radius());
    }

    /** Compares two states; lengths are the models', metres for assets. */
    public static Comparison compare(State before, State after, Progress progress) {
        Comparer comparer = new Comparer(before.model(), after.model());
        progress.step("comparing objects", 0);
        List<Comparison.ObjectChange> objects = comparer.objects();
        progress.step("comparing materials", 0.2);
        List<Comparison.Named> textures = new ArrayList<>();
        List<Comparison.Named> materials = comparer.materials(textures);
        progress.step("measuring how far the surfaces are apart", 0.3);
        boolean reshaped = objects.stream()
                .anyMatch(change -> !change.what().equals(List.of(Comparison.ChangeKind.RENAMED))
                        && !change.what().equals(List.of(Comparison.ChangeKind.REMADE)));
        SurfaceDistance.Result distance = reshaped
                ? SurfaceDistance.between(WorldPoints.triangles(before.model()), WorldPoints.triangles(after.model()))
                : new SurfaceDistance.Result(0, 0);
        return new Comparison(
                objects,
                materials,
                textures,
                variants(before.variants(), after.variants()),
                Movements.changes(before.model(), after.model()),
                new Comparison.Pair<>(
                        before.model().trianglesDrawn(), after.model().trianglesDrawn()),
                new Comparison.Pair<>(
                        Facts.Bounds.of(before.model().bounds()),
                        Facts.Bounds.of(after.model().bounds())),
                comparer.pivotMoved(),
                distance.greatest(),
                distance.step());
    }

    private List<Comparison.ObjectChange> objects() {
        List<Comparison.ObjectChange> changes = new ArrayList<>();
        Set<String> gone = new LinkedHashSet<>(old.keySet());
        Set<String> fresh = new LinkedHashSet<>(now.keySet());
        for (String path : old.keySet()) {
            if (now.containsKey(path)) {
                gone.remove(path);
                fresh.remove(path);
                changed(old.get(path), now.get(path), new ArrayList<>()).ifPresent(changes::add);
            }
        }
        for (String path : List.copyOf(gone)) {
            Objects.Thing thing = old.get(path);
            // Of several that look alike, the one that stands where this one stood.
            fresh.stream()
                    .map(now::get)
                    .filter(thing::sameShape)
                    .min(java.util.Comparator.comparingDouble(other -> moved(thing.world(), other.world())))
                    .ifPresent(other -> {
                        gone.remove(path);
                        fresh.remove(other.path());
                        changed(thing, other, new ArrayList<>(List.of(Comparison.ChangeKind.RENAMED)))
                                .ifPresent(changes::add);
                    });
        }
        pairLeftOver(gone, fresh).forEach((path, other) -> {
            gone.remove(path);
            fresh.remove(other);
            changed(old.get(path), now.get(other), new ArrayList<>(List.of(Comparison.ChangeKind.RENAMED)))
                    .ifPresent(changes::add);
        });
        for (String path : gone) {
            changes.add(new Comparison.ObjectChange(
                    List.of(Comparison.ChangeKind.REMOVED),
                    path,
                    "",
                    triangles(old.get(path).triangles())));
        }
        for (String path : fresh) {
            changes.add(new Comparison.ObjectChange(
                    List.of(Comparison.ChangeKind.ADDED),
                    "",
                    path,
                    triangles(now.get(path).triangles())));
        }
        return changes;
    }

    /** Where one object is gone from a group and one is new in it, the new one came in its place. */
    private static Map<String, String> pairLeftOver(Set<String> gone, Set<String> fresh) {
        Map<String, List<String>> goneFrom = new LinkedHashMap<>();
        gone.forEach(path ->
                goneFrom.computeIfAbsent(parent(path), p -> new ArrayList<>()).add(path));
        Map<String, List<String>> freshIn = new LinkedHashMap<>();
        fresh.forEach(path ->
                freshIn.computeIfAbsent(parent(path), p -> new ArrayList<>()).add(path));
        Map<String, String> pairs = new LinkedHashMap<>();
        goneFrom.forEach((parent, paths) -> {
            List<String> others = freshIn.getOrDefault(parent, List.of());
            if (paths.size() == 1 && others.size() == 1) {
                pairs.put(paths.getFirst(), others.getFirst());
            }
        });
        return pairs;
    }

    private static String parent(String path) {
        return path.substring(0, Math.max(0, path.lastIndexOf('/')));
    }

    private static String triangles(long count) {
        return String.format(Locale.ROOT, "%,d triangles", count).replace(',', '\u202f');
    }

    private Optional<Comparison.ObjectChange> changed(
            Objects.Thing was, Objects.Thing is, List<Comparison.ChangeKind> what) {
        List<String> details = new ArrayList<>();
        double by = moved(was.world(), is.world());
        if (by > tolerance) {
            what.add(Comparison.ChangeKind.MOVED);
            double shift = is.world()
                    .translationPart()
                    .minus(was.world().translationPart())
                    .length();
            details.add(
                    shift > tolerance ? String.format(Locale.ROOT, "by %.4g m", shift) : "turned or scaled in place");
        }
        if (!was.sameShape(is)) {
            what.add(Comparison.ChangeKind.RESHAPED);
            details.add(
                    was.triangles() == is.triangles()
                            ? "as many triangles"
                            : String.format(Locale.ROOT, "%,d → %,d triangles", was.triangles(), is.triangles())
                                    .replace(',', '\u202f'));
        }
        if (!was.materials().equals(is.materials())) {
            what.add(Comparison.ChangeKind.REMADE);
            details.add(String.join(", ", was.materials()) + " → " + String.join(", ", is.materials()));
        }
        return what.isEmpty()
                ? Optional.empty()
                : Optional.of(new Comparison.ObjectChange(what, was.path(), is.path(), String.join("; ", details)));
    }

    /** How far a place differs from another: the farthest that the corners of a unit box at the origin are moved. */
    private static double moved(Matrix4 from, Matrix4 to) {
        double farthest = 0;
        for (int corner = 0; corner < 8; corner++) {
            Vec3 point = new Vec3(corner & 1, corner >> 1 & 1, corner >> 2);
            farthest =
                    Math.max(farthest, to.point(point).minus(from.point(point)).length());
        }
        return farthest;
    }

    private double pivotMoved() {
        Box3 was = before.bounds();
        Box3 is = after.bounds();
        return was.isEmpty() || is.isEmpty()
                ? 0
                : is.centre().minus(was.centre()).length();
    }

    private List<Comparison.Named> materials(List<Comparison.Named> textures) {
        Map<String, Material> was = byName(before);
        Map<String, Material> is = byName(after);
        List<Comparison.Named> changes = new ArrayList<>(names(was.keySet(), is.keySet()));
        was.forEach((name, material) -> {
            Material other = is.get(name);
            if (other != null) {
                differences(material, other)
                        .ifPresent(detail ->
                                changes.add(new Comparison.Named(Comparison.ChangeKind.REMADE, name, detail)));
            }
        });
        textures.addAll(textures(before, after));
        return changes;
    }

    private static Map<String, Material> byName(Model model) {
        Map<String, Material> materials = new LinkedHashMap<>();
        model.materials().forEach(material -> materials.putIfAbsent(material.name(), material));
        return materials;
    }

    private static List<Comparison.Named> names(Set<String> was, Set<String> is) {
        List<Comparison.Named> changes = new ArrayList<>();
        was.stream()
                .filter(name -> !is.contains(name))
                .forEach(name -> changes.add(new Comparison.Named(Comparison.ChangeKind.REMOVED, name, "")));
        is.stream()
                .filter(name -> !was.contains(name))
                .forEach(name -> changes.add(new Comparison.Named(Comparison.ChangeKind.ADDED, name, "")));
        return changes;
    }

    private static Optional<String> differences(Material was, Material is) {
        List<String> details = new ArrayList<>();
        if (!was.base().equals(is.base())) {
            details.add("colour");
        }
        compare(details, "opacity", was.opacity(), is.opacity());
        compare(details, "metallic", was.metallic(), is.metallic());
        compare(details, "roughness", was.roughness(), is.roughness());
        if (!was.emissive().equals(is.emissive())) {
            details.add("glow");
        }
        if (!was.finish().equals(is.finish())) {
            details.add("finish");
        }
        Set<Material.Slot> slots = new LinkedHashSet<>(was.textures().keySet());
        slots.addAll(is.textures().keySet());
        for (Material.Slot slot : slots) {
            Texture a = was.textures().get(slot);
            Texture b = is.textures().get(slot);
            if (a == null
                    || b == null
                    || !contents(a).equals(contents(b))
                    || !a.sampling().equals(b.sampling())) {
                details.add("texture of " + slot.input());
            }
        }
        return details.isEmpty() ? Optional.empty() : Optional.of(String.join(", ", details));
    }

    private static void compare(List<String> details, String name, float was, float is) {
        if (Math.abs(was - is) > 1e-4) {
            details.add(String.format(Locale.ROOT, "%s %.2f → %.2f", name, was, is));
        }
    }

    /** What tells an image from another: its bytes; its name where it is missing. */
    private static String contents(Texture texture) {
        return texture.file().map(Comparer::checksum).orElse(texture.name());
    }

    private static String checksum(Path file) {
        try {
            return Sha256.of(file);
        } catch (IOException e) {
            // What cannot be read differs from what can.
            return file.toString();
        }
    }

    private static List<Comparison.Named> textures(Model before, Model after) {
        Map<String, String> was = files(before);
        Map<String, String> is = files(after);
        List<Comparison.Named> changes = new ArrayList<>(names(was.keySet(), is.keySet()));
        was.forEach((name, sum) -> {
            if (is.containsKey(name) && !is.get(name).equals(sum)) {
                changes.add(new Comparison.Named(Comparison.ChangeKind.REMADE, name, "another image"));
            }
        });
        return changes;
    }

    private static Map<String, String> files(Model model) {
        Map<String, String> files = new LinkedHashMap<>();
        model.textures()
                .forEach(texture ->
                        files.put(Path.of(texture.name()).getFileName().toString(), contents(texture)));
        return files;
    }

    private static List<Comparison.Named> variants(Map<String, List<String>> was, Map<String, List<String>> is) {
        Set<String> before = new LinkedHashSet<>();
        was.forEach((set, names) -> names.forEach(name -> before.add(set + " " + name)));
        Set<String> after = new LinkedHashSet<>();
        is.forEach((set, names) -> names.forEach(name -> after.add(set + " " + name)));
        return names(before, after);
    }
}
