package pantry.demo;

import java.util.List;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.model.Material;
import pantry.model.Model;

/** What lives at Skua Point, with its joints and motions. */
final class LivingAssets {
    private static final Material SKIN = Paints.paint("Skin", 0xC99873, 0.6);
    private static final Material SUIT = Paints.paint("Work suit", 0x2F5D73, 0.85);
    private static final Material JACKET = Paints.paint("Quilted jacket", 0xB4682F, 0.9);
    private static final Material FUR = Paints.paint("Cat's fur", 0x8A7A66, 0.95);

    private LivingAssets() {}

    static List<Recipe> recipes() {
        return List.of(
                Recipe.of("Living/People", technician(), "figure", "moving"),
                Recipe.of("Living/People", radioOperator(), "figure", "moving"),
                Recipe.of("Living/People", cat(), "animal", "moving"));
    }

    private static Vec3 at(double x, double y, double z) {
        return new Vec3(x, y, z);
    }

    /** A person of 1.75 m in a work suit, arms hanging. */
    static Model technician() {
        Kit kit = new Kit();
        Rigging bones = person(kit, SUIT);
        kit.part("Head");
        kit.lathe(
                Paints.SIGNAL_RED,
                new double[] {0.125, 0.122, 0.09, 0},
                new double[] {0, 0.03, 0.08, 0.1},
                0,
                1.65,
                0.01);
        return bones.motion("Idle", 4, 24, LivingAssets::idle)
                .shape("Breath", "Chest", 2, LivingAssets::breath)
                .motion("Walk", 1.1, 22, LivingAssets::walk)
                .motion("Wave", 2, 24, LivingAssets::wave)
                .on(kit.model("Technician"));
    }

    /** Another person, with the same joints and no motions but one. */
    static Model radioOperator() {
        Kit kit = new Kit();
        Rigging bones = person(kit, JACKET);
        kit.part("Head");
        kit.lathe(FUR, new double[] {0.12, 0.126, 0.11, 0.03}, new double[] {0, 0.03, 0.1, 0.13}, 0, 1.64, 0.01);
        for (int side : new int[] {1, -1}) {
            kit.sphere(Paints.DARK_STEEL, 0.045, side * 0.11, 1.63, 0.01);
        }
        return bones.motion("Idle", 4, 24, LivingAssets::idle).on(kit.model("Radio operator"));
    }

    /** What somebody does who waves others nearer, as motion capture writes it. */
    static String beckon() {
        return person(new Kit(), SUIT).capture(1.6, 48, LivingAssets::beckon);
    }

    /** What somebody does who carries something before the chest, as motion capture writes it. */
    static String carry() {
        return person(new Kit(), SUIT).capture(1.2, 36, LivingAssets::carry);
    }

    private static Rigging person(Kit kit, Material suit) {
        Rigging bones = new Rigging();
        bones.joint("Hips", "", 0, 0.95, 0).joint("Chest", "Hips", 0, 1.14, 0).joint("Head", "Chest", 0, 1.5, 0);
        bones.end("Head", 0, 1.73, 0);
        kit.part("Hips").limb(suit, 0.15, 0.14, at(0, 0.86, 0), at(0, 1.06, 0));
        kit.part("Chest").limb(suit, 0.14, 0.17, at(0, 1.1, 0), at(0, 1.36, 0));
        kit.part("Head").limb(SKIN, 0.05, 0.05, at(0, 1.45, 0), at(0, 1.52, 0)).sphere(SKIN, 0.105, 0, 1.625, 0.01);
        for (int side : new int[] {1, -1}) {
            String word = side > 0 ? " left" : " right";
            bones.joint("Arm" + word, "Chest", side * 0.2, 1.42, 0)
                    .joint("Forearm" + word, "Arm" + word, side * 0.25, 1.14, 0)
                    .joint("Hand" + word, "Forearm" + word, side * 0.27, 0.88, 0.02)
                    .end("Hand" + word, side * 0.275, 0.77, 0.04)
                    .joint("Leg" + word, "Hips", side * 0.1, 0.9, 0)
                    .joint("Shin" + word, "Leg" + word, side * 0.11, 0.49, 0)
                    .joint("Foot" + word, "Shin" + word, side * 0.11, 0.08, 0)
                    .end("Foot" + word, side * 0.11, 0.02, 0.18);
            kit.part("Arm" + word).limb(suit, 0.055, 0.06, at(side * 0.245, 1.16, 0), at(side * 0.2, 1.41, 0));
            kit.part("Forearm" + word).limb(suit, 0.042, 0.052, at(side * 0.27, 0.9, 0.02), at(side * 0.25, 1.14, 0));
            kit.part("Hand" + word).limb(SKIN, 0.03, 0.038, at(side * 0.275, 0.79, 0.04), at(side * 0.27, 0.86, 0.02));
            kit.part("Leg" + word).limb(suit, 0.07, 0.09, at(side * 0.11, 0.52, 0), at(side * 0.1, 0.86, 0));
            kit.part("Shin" + word).limb(suit, 0.05, 0.068, at(side * 0.11, 0.12, 0), at(side * 0.11, 0.48, 0));
            kit.part("Foot" + word)
                    .limb(Paints.RUBBER, 0.05, 0.055, at(side * 0.11, 0.055, 0.14), at(side * 0.11, 0.06, 0));
        }
        return bones;
    }

    private static Matrix4 beckon(String joint, double share) {
        double lifted = Math.min(1, Math.min(5 * share, 5 * (1 - share)));
        double swing = lifted * Math.sin(3 * round(share));
        return switch (joint) {
            case "Arm right" -> Matrix4.rotation(0, -62 * lifted);
            case "Forearm right" -> Matrix4.rotation(0, -58 * lifted - 34 * swing);
            case "Hand right" -> Matrix4.rotation(0, -20 * swing);
            case "Chest" -> Matrix4.rotation(1, 8 * lifted);
            default -> Matrix4.IDENTITY;
        };
    }

    /** Walks, both forearms held out. */
    private static Matrix4 carry(String joint, double share) {
        return switch (joint.split(" ")[0]) {
            case "Arm" -> Matrix4.rotation(0, -22);
            case "Forearm" -> Matrix4.rotation(0, -68 + 3 * Math.sin(2 * round(share)));
            case "Chest" -> Matrix4.rotation(0, -6);
            default -> walk(joint, share);
        };
    }

    /** Forwards and to the sides, most half way up the chest. */
    private static Vec3 breath(Vec3 point) {
        double most = Math.max(0, 1 - Math.abs(point.y() - 1.25) / 0.16);
        return new Vec3(0.06 * point.x(), 0, point.z() > 0 ? 0.18 * point.z() : 0).times(most);
    }

    private static double round(double share) {
        return 2 * Math.PI * share;
    }

    private static Matrix4 idle(String joint, double share) {
        double sway = Math.sin(round(share));
        return switch (joint) {
            case "Chest" -> Matrix4.rotation(0, 2 * sway);
            case "Head" -> Matrix4.rotation(1, 12 * Math.sin(round(share) + 1));
            case "Arm left" -> Matrix4.rotation(2, 3 + 2 * sway);
            case "Arm right" -> Matrix4.rotation(2, -3 - 2 * sway);
            default -> Matrix4.IDENTITY;
        };
    }

    private static Matrix4 walk(String joint, double share) {
        boolean left = joint.endsWith("left");
        double step = Math.sin(round(share) + (left ? 0 : Math.PI));
        double bend = Math.max(0, Math.cos(round(share) + (left ? 0 : Math.PI)));
        return switch (joint.split(" ")[0]) {
            case "Hips" -> Matrix4.translation(new Vec3(0, 0.025 * Math.cos(2 * round(share)), 0));
            case "Chest" -> Matrix4.rotation(1, 6 * Math.sin(round(share)));
            case "Leg" -> Matrix4.rotation(0, -30 * step);
            case "Shin" -> Matrix4.rotation(0, 8 + 45 * bend);
            case "Foot" -> Matrix4.rotation(0, -10 * step);
            case "Arm" -> Matrix4.rotation(0, 24 * step);
            case "Forearm" -> Matrix4.rotation(0, -18 - 10 * bend);
            default -> Matrix4.IDENTITY;
        };
    }

    private static Matrix4 wave(String joint, double share) {
        double lifted = Math.min(1, Math.min(5 * share, 5 * (1 - share)));
        double swing = lifted * Math.sin(3 * round(share));
        return switch (joint) {
            case "Arm left" -> Matrix4.rotation(2, 140 * lifted);
            case "Forearm left" -> Matrix4.rotation(2, 20 * lifted + 28 * swing);
            case "Head" -> Matrix4.rotation(1, 10 * lifted);
            default -> Matrix4.IDENTITY;
        };
    }

    /** The station's cat, 0.3 m tall. */
    static Model cat() {
        Kit kit = new Kit();
        Rigging bones = new Rigging();
        bones.joint("Body", "", 0, 0.21, -0.1)
                .joint("Neck", "Body", 0, 0.24, 0.12)
                .joint("Tail", "Body", 0, 0.24, -0.2)
                .joint("Tail end", "Tail", 0, 0.3, -0.34);
        kit.part("Body").limb(FUR, 0.07, 0.062, at(0, 0.22, -0.15), at(0, 0.22, 0.1));
        kit.part("Neck")
                .limb(FUR, 0.04, 0.035, at(0, 0.23, 0.12), at(0, 0.28, 0.17))
                .sphere(FUR, 0.055, 0, 0.3, 0.2);
        for (int side : new int[] {1, -1}) {
            kit.part("Neck").limb(FUR, 0.018, 0.003, at(side * 0.03, 0.34, 0.19), at(side * 0.036, 0.375, 0.18));
            String word = side > 0 ? " left" : " right";
            bones.joint("Foreleg" + word, "Body", side * 0.04, 0.19, 0.09)
                    .joint("Hind leg" + word, "Body", side * 0.045, 0.19, -0.15);
            kit.part("Foreleg" + word).limb(FUR, 0.018, 0.026, at(side * 0.04, 0.02, 0.1), at(side * 0.04, 0.18, 0.09));
            kit.part("Hind leg" + word)
                    .limb(FUR, 0.02, 0.038, at(side * 0.045, 0.02, -0.17), at(side * 0.045, 0.18, -0.15));
        }
        kit.part("Tail").limb(FUR, 0.016, 0.018, at(0, 0.25, -0.21), at(0, 0.3, -0.33));
        kit.part("Tail end").limb(FUR, 0.01, 0.016, at(0, 0.42, -0.36), at(0, 0.31, -0.34));
        return bones.motion("Sit and look", 3, 18, (joint, share) -> switch (joint) {
                    case "Tail" -> Matrix4.rotation(1, 14 * Math.sin(round(share)));
                    case "Tail end" -> Matrix4.rotation(1, 24 * Math.sin(round(share) + 1));
                    case "Neck" -> Matrix4.rotation(1, 20 * Math.sin(round(share) / 2));
                    default -> Matrix4.IDENTITY;
                })
                .motion("Trot", 0.6, 16, LivingAssets::trot)
                .on(kit.model("Station cat"));
    }

    private static Matrix4 trot(String joint, double share) {
        double step = Math.sin(round(share));
        return switch (joint) {
            case "Body" -> Matrix4.translation(new Vec3(0, 0.012 * Math.cos(2 * round(share)), 0));
            case "Foreleg left", "Hind leg right" -> Matrix4.rotation(0, 32 * step);
            case "Foreleg right", "Hind leg left" -> Matrix4.rotation(0, -32 * step);
            case "Tail" -> Matrix4.rotation(0, 10 * Math.cos(round(share)));
            default -> Matrix4.IDENTITY;
        };
    }
}
