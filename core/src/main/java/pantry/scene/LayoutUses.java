package pantry.scene;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.Bounds;
import pantry.usd.schema.Xforms;

/** The uses under the anchor of a layout, made and moved in one change. */
final class LayoutUses {
    /** Transforms that differ by less, in their entries, say the same: figures of turns are written with few digits. */
    private static final double SAME = 1e-4;

    /** More than these are moved in one edit: each by itself would have the stage looked at anew. */
    private static final int FEW = 8;

    private final SceneLayer scene;
    private final Transaction edits;
    private final SdfPath group;
    private final Progress progress;

    LayoutUses(SceneLayer scene, Transaction edits, SdfPath group, Progress progress) {
        this.progress = progress;
        this.scene = scene;
        this.edits = edits;
        this.group = group;
    }

    /**
     * What stands under the anchor before it is filled, by the numbers of the uses.
     *
     * @param names of all uses, of those that were taken away too
     * @param kinds which of the objects each is of
     * @param there the numbers of those that are there
     * @param byHand the numbers of those that were moved by hand
     * @param known whether it could be told which were
     */
    record Before(List<String> names, int[] kinds, Set<Integer> there, Set<Integer> byHand, boolean known) {
        /** Of objects that were not laid out yet. */
        static Before fresh(List<String> names) {
            Set<Integer> all = new HashSet<>();
            int[] kinds = new int[names.size()];
            for (int i = 0; i < names.size(); i++) {
                all.add(i);
                kinds[i] = i;
            }
            return new Before(names, kinds, all, Set.of(), true);
        }

        static Before of(SceneLayer scene, SdfPath group, LayoutFigures figures) {
            List<String> present = LayoutUses.names(scene, group);
            List<String> names = figures.uses().isEmpty() ? present : figures.uses();
            Set<String> left = new HashSet<>(present);
            Set<Integer> there = new HashSet<>();
            for (int i = 0; i < names.size(); i++) {
                if (left.contains(names.get(i))) {
                    there.add(i);
                }
            }
            int[] kinds = figures.plan().kinds(figures.objects(), Math.max(names.size(), figures.objects()));
            Optional<List<Matrix4>> expected = expected(scene, group, figures, kinds);
            Set<Integer> byHand = new HashSet<>();
            expected.ifPresent(places -> {
                for (int i : there) {
                    boolean moved = i < places.size()
                            && scene.stage()
                                    .prim(group.child(names.get(i)))
                                    .filter(use -> !alike(Xforms.local(use), places.get(i)))
                                    .isPresent();
                    if (moved) {
                        byHand.add(i);
                    }
                }
            });
            return new Before(names, kinds, there, byHand, expected.isPresent());
        }

        /** Where the figures put each use; empty where what they lie on has become another. */
        private static Optional<List<Matrix4>> expected(
                SceneLayer scene, SdfPath group, LayoutFigures figures, int[] kinds) {
            Ground ground = new Ground(scene, group, () -> world(scene, group));
            List<Matrix4> places;
            try {
                places = figures.layout().places(ground);
            } catch (SceneException e) {
                // What it lay on is gone.
                return Optional.empty();
            }
            if (ground.fingerprint != figures.surface() && figures.surface() != 0) {
                return Optional.empty();
            }
            List<Matrix4> expected = new ArrayList<>();
            for (int i = 0; i < Math.min(places.size(), kinds.length); i++) {
                double[] lifted = figures.lifted();
                Vec3 up = lifted.length < 3 * i + 3
                        ? Vec3.ZERO
                        : new Vec3(lifted[3 * i], lifted[3 * i + 1], lifted[3 * i + 2]);
                expected.add(figures.variation()
                        .of(i)
                        .times(figures.original(kinds[i]))
                        .times(places.get(i))
                        .times(Matrix4.translation(up)));
            }
            return Optional.of(expected);
        }

        private static boolean alike(Matrix4 one, Matrix4 other) {
            double[] a = one.rows();
            double[] b = other.rows();
            for (int i = 0; i < a.length; i++) {
                if (Math.abs(a[i] - b[i]) > SAME * Math.max(1, Math.abs(b[i]))) {
                    return false;
                }
            }
            return true;
        }

        /** Whether a number keeps what it has, or keeps having nothing, where an object of a kind is to stand. */
        boolean stays(int number, int kind) {
            return number < names.size()
                    && (!there.contains(number) || kinds[number] == kind || byHand.contains(number));
        }

        /** What is to be said of what stays, after what is done. */
        String told() {
            int away = names.size() - there.size();
            String stays = byHand.isEmpty() ? "" : "; " + byHand.size() + " moved by hand stay";
            return !known
                    ? "; what it lies on has changed, so all are laid anew"
                    : away == 0 ? stays : stays + "; " + away + " taken away stay away";
        }
    }

    /** The names of what stands under an anchor. */
    static List<String> names(SceneLayer scene, SdfPath group) {
        return scene.spec(group).stream()
                .flatMap(prim -> prim.childNames().stream())
                .filter(name -> !name.equals(Anchors.MARK))
                .toList();
    }

    /** Fills the anchor by figures, and keeps these with it. */
    void fill(LayoutFigures wanted, Before before, String key) {
        Ground ground = new Ground(
                scene, group, () -> Xforms.world(edits.stage().prim(group).orElseThrow()));
        progress.step("finding places", 0);
        List<Matrix4> places = wanted.layout().places(ground);
        int[] kinds = wanted.plan().kinds(wanted.objects(), places.size());
        Map<Integer, SdfPath> templates = templates(before, wanted.objects());
        progress.step("seeing what they stand on", 0.2);
        double[] lifted = wanted.standing() ? lifted(wanted, templates, places, kinds) : new double[0];
        List<Matrix4> local = new ArrayList<>();
        for (int i = 0; i < places.size(); i++) {
            Matrix4 place = wanted.original(kinds[i]).times(places.get(i));
            local.add(
                    lifted.length == 0
                            ? place
                            : place.times(Matrix4.translation(
                                    new Vec3(lifted[3 * i], lifted[3 * i + 1], lifted[3 * i + 2]))));
        }
        List<String> names = names(before, templates, kinds);
        Changes changes = new Changes(wanted.variation(), local, names);
        // Copies are made of those that stand there, before these are moved or go.
        progress.step("making uses", 0.4);
        templates.forEach((kind, template) -> changes.copy(template, fresh(before, kinds, kind)));
        progress.step("moving those that there are", 0.6);
        changes.restand(before, kinds);
        progress.step("composing the scene", 0.8);
        LayoutFigures kept = wanted.withUses(names, lifted, ground.fingerprint);
        edits.change(group, prim -> CustomData.write(prim, key, kept));
    }

    /** Of each object, a use that is there, which more are made from. */
    private Map<Integer, SdfPath> templates(Before before, int objects) {
        Map<Integer, SdfPath> templates = new LinkedHashMap<>();
        for (int i = 0; i < before.names().size(); i++) {
            if (before.there().contains(i)) {
                templates.putIfAbsent(
                        before.kinds()[i], group.child(before.names().get(i)));
            }
        }
        if (templates.size() < objects) {
            throw new SceneException(
                    scene.file(),
                    "of what was laid out in <" + group + ">, one object is no longer there; lay it out anew");
        }
        return templates;
    }

    /** The numbers of the uses of an object that are to be made; what was taken away stays away. */
    private static List<Integer> fresh(Before before, int[] kinds, int kind) {
        List<Integer> numbers = new ArrayList<>();
        for (int i = 0; i < kinds.length; i++) {
            if (kinds[i] == kind && !before.stays(i, kind)) {
                numbers.add(i);
            }
        }
        return numbers;
    }

    /** The names of all uses by their numbers: those that have one keep it. */
    private List<String> names(Before before, Map<Integer, SdfPath> templates, int[] kinds) {
        Set<String> taken = new HashSet<>(before.names());
        edits.stage().prim(group).orElseThrow().children().forEach(child -> taken.add(child.name()));
        List<String> names = new ArrayList<>();
        for (int i = 0; i < kinds.length; i++) {
            if (before.stays(i, kinds[i])) {
                names.add(before.names().get(i));
                continue;
            }
            String stem = templates.get(kinds[i]).name().replaceAll("_\\d+$", "");
            int number = i + 1;
            String name = stem + "_" + number;
            while (!taken.add(name)) {
                name = stem + "_" + ++number;
            }
            names.add(name);
        }
        return names;
    }

    /** What becomes of the uses. */
    private final class Changes {
        private final Layout.Variation variation;
        private final List<Matrix4> places;
        private final List<String> names;

        /** @param places of the uses by their numbers, but for how they differ */
        Changes(Layout.Variation variation, List<Matrix4> places, List<String> names) {
            this.variation = variation;
            this.places = places;
            this.names = names;
        }

        /** Makes uses like one that is there. */
        void copy(SdfPath template, List<Integer> numbers) {
            if (numbers.isEmpty()) {
                return;
            }
            Matrix4 now = Xforms.local(edits.stage().prim(template).orElseThrow());
            edits.copies(
                    template,
                    numbers.stream().map(names::get).toList(),
                    (copy, index) -> stand(copy, numbers.get(index), now));
        }

        /** Gives the uses that stay their places, and takes away those that have none any more. */
        void restand(Before before, int[] kinds) {
            Map<String, Matrix4> now = new HashMap<>();
            Map<String, Integer> moved = new HashMap<>();
            Set<String> away = new HashSet<>();
            for (int i : before.there()) {
                String name = before.names().get(i);
                if (i >= kinds.length || !before.stays(i, kinds[i])) {
                    away.add(name);
                } else if (!before.byHand().contains(i)) {
                    moved.put(name, i);
                    now.put(
                            name,
                            Xforms.local(edits.stage().prim(group.child(name)).orElseThrow()));
                }
            }
            edits.removeAll(away.stream().map(group::child).toList());
            Set<String> each = new HashSet<>(moved.keySet());
            if (each.size() > FEW) {
                edits.replace(group, prim -> {
                    prim.children().stream()
                            .filter(use -> each.remove(use.name()))
                            .forEach(use -> stand(use, moved.get(use.name()), now.get(use.name())));
                    return prim;
                });
            }
            each.forEach(name -> edits.change(group.child(name), prim -> stand(prim, moved.get(name), now.get(name))));
        }

        private void stand(PrimSpec prim, int number, Matrix4 now) {
            TransformOps.write(prim, now, variation.of(number).times(places.get(number)));
            variation.variant(number).ifPresent(variant -> {
                Map<String, String> selections = new LinkedHashMap<>();
                if (prim.metadata().get("variants") instanceof Value.Selections before) {
                    selections.putAll(before.bySet());
                }
                selections.put(variation.variantSet(), variant);
                prim.metadata().put("variants", new Value.Selections(selections));
            });
        }
    }

    private static Matrix4 world(SceneLayer scene, SdfPath group) {
        return scene.stage().prim(group).map(Xforms::world).orElse(Matrix4.IDENTITY);
    }

    /**
     * How far each use is moved so that its base stands on what is below it: the highest surface there, or that under the
     * ceiling which the first object stands under; the floor at height 0 where there is nothing.
     *
     * @return three numbers each, in the anchor's space
     */
    private double[] lifted(LayoutFigures wanted, Map<Integer, SdfPath> templates, List<Matrix4> places, int[] kinds) {
        Matrix4 world = Xforms.world(edits.stage().prim(group).orElseThrow()).times(scene.toMetres());
        double[] bases = bases(wanted.objects(), templates);
        List<Vec3> points = new ArrayList<>();
        for (int i = 0; i < places.size(); i++) {
            points.add(
                    wanted.original(kinds[i]).times(places.get(i)).times(world).translationPart());
        }
        Vec3 origin = wanted.original(0).times(world).translationPart();
        double[] heights = new LayoutGround(scene.model(), path -> path.startsWith(group))
                .heights(origin.plus(new Vec3(0, bases[0], 0)), points);
        double[] lifted = new double[3 * places.size()];
        Matrix4 back = world.inverse();
        for (int i = 0; i < places.size(); i++) {
            double size = wanted.variation().of(i).direction(Vec3.UP).length();
            double rise = heights[i] - bases[kinds[i]] * size - points.get(i).y();
            Vec3 up = back.direction(new Vec3(0, rise, 0));
            lifted[3 * i] = rounded(up.x());
            lifted[3 * i + 1] = rounded(up.y());
            lifted[3 * i + 2] = rounded(up.z());
        }
        return lifted;
    }

    private static double rounded(double length) {
        return Math.rint(length * 1e6) / 1e6;
    }

    /** How far the base of each object is above its origin as it stands, metres. */
    private double[] bases(int objects, Map<Integer, SdfPath> templates) {
        Bounds bounds = new Bounds(edits.stage(), Bounds.DRAWN);
        double[] bases = new double[objects];
        templates.forEach((kind, path) -> edits.stage().prim(path).ifPresent(prim -> {
            Box3 box = bounds.world(prim).transformed(scene.toMetres());
            if (!box.isEmpty()) {
                bases[kind] = box.min().y()
                        - Xforms.world(prim)
                                .times(scene.toMetres())
                                .translationPart()
                                .y();
            }
        }));
        return bases;
    }

    /** The objects that a layout lies on, as triangles in the anchor's space. */
    private static final class Ground implements Layout.Terrain {
        private final SceneLayer scene;
        private final SdfPath group;
        private final Supplier<Matrix4> world;

        /** Tells what was lain on from anything else; 0 where nothing was. */
        private long fingerprint;

        Ground(SceneLayer scene, SdfPath group, Supplier<Matrix4> world) {
            this.scene = scene;
            this.group = group;
            this.world = world;
        }

        @Override
        public double[] triangles(String surface) {
            if (!SdfPath.isWellFormed(surface)
                    || scene.stage().prim(SdfPath.of(surface)).isEmpty()) {
                throw new SceneException(scene.file(), "there is no <" + surface + "> to lay anything out on");
            }
            SdfPath path = SdfPath.of(surface);
            if (group.startsWith(path)) {
                throw new SceneException(scene.file(), "<" + path + "> cannot lie on itself");
            }
            Matrix4 into = scene.toMetres().inverse().times(world.get().inverse());
            double[] triangles =
                    new LayoutGround(scene.model(), owned -> owned.startsWith(group)).triangles(path, into);
            fingerprint = fingerprint(triangles);
            return triangles;
        }

        /** A hash of lengths in tenths of a millimetre, so that what is only computed in another order is the same. */
        private static long fingerprint(double[] triangles) {
            long hash = triangles.length + 1;
            for (double length : triangles) {
                hash = 31 * hash + Math.round(length * 1e4);
            }
            return hash;
        }
    }
}
